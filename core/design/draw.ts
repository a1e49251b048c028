import type { Design, Layer, Part } from '../contract/design.ts';
import { unitsOf, type Finish, type FinishOf } from '../contract/finish.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { pathText } from '../path/path.ts';
import { grownBox } from '../path/pathBox.ts';
import { matrixOf, type Matrix } from '../path/matrix.ts';
import type { Box } from '../placement/geometry.ts';
import { finishColour, layerColour } from './colours.ts';
import type { DrawContext } from './context.ts';
import { drawPlate } from './plate.ts';
import { finishedBoxes, finishOf, inkOfShown, outlineReach, shownLayers } from './measure.ts';
import type { ShownLayer } from './measure.ts';
import { kept } from './kept.ts';
import type { Silhouette } from './silhouette.ts';
import { bevelPicture, glowPicture, shadowPicture } from './soft/softPictures.ts';
import type { SoftPicture } from './soft/softPictures.ts';
import type { Piece } from './soft/softPlane.ts';

/** A layer, or what lies round several, as SVG about 0, 0: it is shown moved by its place. */
export interface DrawnLayer {
  readonly id: string;
  /** Whether it moves along with the layers in the hand. */
  readonly held: boolean;
  readonly x: number;
  readonly y: number;
  readonly svg: string;
}

/** A silhouette with all that its finishes need to know. */
interface Subject {
  readonly pieces: readonly Piece[];
  readonly ink: Box;
  readonly colour: string | null;
  readonly tone: ToneChoice;
  readonly finishes: readonly Finish[];
  /** Unique within the document. */
  readonly id: string;
}

/**
 * A design as SVG in pieces, from below.
 *
 * @param held layers in somebody's hand: what the finishes of the whole mark make of them is drawn
 *   by itself, so that nothing has to be made anew while they are moved. Only where it overlaps
 *   that of the others it is a little stronger than it will be.
 */
export function drawDesign(
  design: Design,
  tone: ToneChoice,
  context: DrawContext,
  held: ReadonlySet<string> = NOBODY,
): DrawnLayer[] {
  const shown = shownLayers(design, context);
  if (shown.length === 0) return [];
  const isSeenThrough = (finishOf(design.finishes, 'fill')?.opacity ?? 1) < 1;
  const layers = shown.map((entry, index) =>
    drawLayer(entry, design, tone, context, held.has(entry.layer.id), `lc${index}`),
  );
  const groups = [
    { key: 'still', some: shown.filter(({ layer }) => !held.has(layer.id)) },
    { key: 'held', some: shown.filter(({ layer }) => held.has(layer.id)) },
  ].filter(({ some }) => some.length > 0);
  const subjects = groups.map(({ key, some }) => wholeSubject(design, some, shown, tone, key));
  const around = (where: string, draw: (subject: Subject) => string): DrawnLayer[] =>
    subjects.map(({ subject, place }) => ({
      ...{ id: `${where}-${subject.id}`, held: subject.id === 'held', ...place },
      svg: keptOfWhole(subject, where, draw),
    }));
  return [
    ...wholePlate(design, shown, tone),
    ...around('under', (subject) => drawUnder(subject, isSeenThrough)),
    ...layers,
    ...around('over', drawOver),
  ].filter(({ svg }) => svg !== '');
}

const NOBODY: ReadonlySet<string> = new Set();

/** The plate lies behind all layers, whoever holds them. */
function wholePlate(
  { finishes }: Design,
  shown: readonly ShownLayer[],
  tone: ToneChoice,
): DrawnLayer[] {
  const plate = finishOf(finishes, 'plate');
  if (!plate) return [];
  const { bare } = finishedBoxes(finishes, inkOfShown(shown));
  const colour = finishColour(plate.colour, wholeColour(shown, tone), tone);
  return [{ id: 'plate', held: false, x: 0, y: 0, svg: drawPlate(plate, bare, colour) }];
}

function drawLayer(
  { layer, silhouette }: ShownLayer,
  { finishes }: Design,
  tone: ToneChoice,
  context: DrawContext,
  held: boolean,
  id: string,
): DrawnLayer {
  const wholeFill = finishOf(finishes, 'fill')?.opacity ?? 1;
  const part = layer.kind === 'artwork' ? context.part(layer.part) : null;
  const colour = layerColour(layer, part, tone);
  const fill = (finishOf(layer.finishes, 'fill')?.opacity ?? 1) * wholeFill;
  const place = { id: layer.id, held, x: layer.place.x, y: layer.place.y };
  const key = JSON.stringify([layer.finishes, layer.opacity, colour, fill, tone, id, part?.kind]);
  const svg = kept(drawings, silhouette, key, () =>
    layerSvg(layer, silhouette, part, colour, fill, tone, id),
  );
  return { ...place, svg };
}

/** A layer's drawing is kept as long as only its place changes. */
const drawings = new WeakMap<object, Map<string, string>>();

function layerSvg(
  layer: Layer,
  silhouette: ShownLayer['silhouette'],
  part: Part | null,
  colour: string | null,
  fill: number,
  tone: ToneChoice,
  id: string,
): string {
  const subject: Subject = {
    ...{ pieces: [{ path: silhouette.path, x: 0, y: 0 }], ink: silhouette.ink, colour, tone, id },
    finishes: layer.finishes,
  };
  const under = drawUnder(subject, fill < 1 || part?.kind === 'png');
  const body = fill <= 0 ? '' : drawBody(silhouette, part, colour, fill, id);
  const svg = under + body + drawOver(subject);
  return layer.opacity < 1 ? `<g opacity="${short(layer.opacity)}">${svg}</g>` : svg;
}

/** The ink itself: a path, or artwork in its own colours or in one. */
function drawBody(
  { path, matrix }: Silhouette,
  part: Part | null,
  colour: string | null,
  opacity: number,
  id: string,
): string {
  const seeThrough = opacity < 1 ? ` opacity="${short(opacity)}"` : '';
  if (!part || part.kind === 'outline') {
    return `<path fill="${colour ?? '#000000'}"${seeThrough} d="${pathText(path)}"/>`;
  }
  const { x, y, width, height } = part.ink;
  const toInk: Matrix = matrixOf(-x - width / 2, -y - height / 2, 0, 1, 1);
  const content =
    part.kind === 'png'
      ? `<image ${boxAttributes(part.natural)} preserveAspectRatio="none" href="data:image/png;base64,${part.png}"/>`
      : part.svg.replace(/^<svg\b/, `<svg x="${part.natural.x}" y="${part.natural.y}"`);
  const placed =
    `<g transform="matrix(${matrix.map(exact).join(' ')})">` +
    `<g transform="matrix(${toInk.map(exact).join(' ')})">${content}</g></g>`;
  if (colour === null) return opacity < 1 ? `<g${seeThrough}>${placed}</g>` : placed;
  return recoloured(placed, colour, seeThrough, id);
}

/** Keeps alpha and replaces every colour. */
function recoloured(content: string, colour: string, attributes: string, id: string): string {
  const rows = [1, 3, 5].map((at) => {
    const value = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return `0 0 0 0 ${Number(value.toFixed(6))}`;
  });
  return (
    `<filter id="${id}t" color-interpolation-filters="sRGB" x="0" y="0" width="1" height="1">` +
    `<feColorMatrix values="${rows.join(' ')} 0 0 0 1 0"/></filter>` +
    `<g filter="url(#${id}t)"${attributes}>${content}</g>`
  );
}

/** What lies beneath the ink: plate, shadow, glow, outline. */
function drawUnder(subject: Subject, isSeenThrough: boolean): string {
  const { finishes, ink, pieces } = subject;
  const outline = finishOf(finishes, 'outline');
  const plate = finishOf(finishes, 'plate');
  const shadow = finishOf(finishes, 'shadow');
  const glow = finishOf(finishes, 'glow');
  const { bare, reach } = finishedBoxes(finishes, ink);
  const grown = outline ? outlineReach(outline) : 0;
  let soft = '';
  if (shadow) {
    const colour = colourOf(subject, shadow.colour);
    soft += softImage(subject, shadow, grown, colour, () =>
      shadowPicture(pieces, ink, shadow, grown, colour),
    );
  }
  if (glow) {
    const colour = colourOf(subject, glow.colour);
    soft += softImage(subject, glow, grown, colour, () =>
      glowPicture(pieces, ink, glow, grown, colour),
    );
  }
  if (outline?.position === 'outside') soft += stroke(subject, outline, 2);
  // What shows through the ink, or round its soft edges, must not be there.
  if (soft !== '' && isSeenThrough) soft = behind(soft, pieces, reach, subject.id);
  return plate ? drawPlate(plate, bare, colourOf(subject, plate.colour)) + soft : soft;
}

/** What lies on the ink: an outline on its edge, the light and shade of a bevel. */
function drawOver(subject: Subject): string {
  const outline = finishOf(subject.finishes, 'outline');
  const bevel = finishOf(subject.finishes, 'bevel');
  let svg = '';
  if (bevel) {
    const clip = `${subject.id}b`;
    const shapes = subject.pieces.map(piecePath).join('');
    const image = softImage(subject, bevel, 0, '', () =>
      bevelPicture(subject.pieces, subject.ink, bevel),
    );
    svg += `<clipPath id="${clip}">${shapes}</clipPath><g clip-path="url(#${clip})">${image}</g>`;
  }
  if (outline?.position === 'centred') svg += stroke(subject, outline, 1);
  return svg;
}

function stroke(subject: Subject, outline: FinishOf<'outline'>, widths: 1 | 2): string {
  const colour = colourOf(subject, outline.colour);
  const width = short(unitsOf(outline.width) * widths);
  const faint = outline.strength < 1 ? ` opacity="${short(outline.strength)}"` : '';
  const lines = subject.pieces.map(piecePath).join('');
  // The inside is filled, too: no gap shows between an outline and ink with soft edges.
  const fill = widths === 2 ? colour : 'none';
  return (
    `<g fill="${fill}" stroke="${colour}" stroke-width="${width}" stroke-linejoin="round" ` +
    `stroke-linecap="round"${faint}>${lines}</g>`
  );
}

function piecePath({ path, x, y }: Piece): string {
  const place = x === 0 && y === 0 ? '' : ` transform="translate(${short(x)} ${short(y)})"`;
  return `<path${place} d="${pathText(path)}"/>`;
}

/** The content with the silhouette cut out of it. */
function behind(content: string, pieces: readonly Piece[], room: Box, id: string): string {
  const shapes = pieces.map(piecePath).join('');
  const area = boxAttributes(grownBox(room, 1));
  return (
    `<mask id="${id}m" maskUnits="userSpaceOnUse" ${area}>` +
    `<rect ${area} fill="#fff"/>${shapes}</mask><g mask="url(#${id}m)">${content}</g>`
  );
}

/** Pictures made for a silhouette, by finish: dragging a layer makes none anew. */
const pictures = new WeakMap<object, Map<string, SoftPicture>>();

function softImage(
  { pieces }: Subject,
  finish: Finish,
  grown: number,
  colour: string,
  make: () => SoftPicture,
): string {
  const key = `${JSON.stringify(finish)}|${grown}|${colour}`;
  const { box, href } = pieces.length === 1 ? kept(pictures, pieces[0].path, key, make) : make();
  return `<image ${boxAttributes(box)} preserveAspectRatio="none" href="${href}"/>`;
}

/** All layers as one silhouette, for the finishes of the whole mark. */
function wholeSubject(
  { finishes }: Design,
  some: readonly ShownLayer[],
  all: readonly ShownLayer[],
  tone: ToneChoice,
  id: string,
): { readonly subject: Subject; readonly place: { readonly x: number; readonly y: number } } {
  const place = { x: some[0].layer.place.x, y: some[0].layer.place.y };
  const pieces = some.map(({ layer, silhouette }) => ({
    path: silhouette.path,
    x: layer.place.x - place.x,
    y: layer.place.y - place.y,
  }));
  const ink = inkOfShown(some);
  const subject: Subject = {
    ...{ pieces, tone, id, colour: wholeColour(all, tone) },
    ink: { ...ink, x: ink.x - place.x, y: ink.y - place.y },
    finishes: finishes.filter(({ kind }) => kind !== 'plate'),
  };
  return { subject, place };
}

/** What counts as the colour of a whole mark: that of the first layer that follows tones. */
function wholeColour(shown: readonly ShownLayer[], tone: ToneChoice): string | null {
  const first = shown.find(({ layer }) => layer.toned)?.layer ?? shown[0].layer;
  return layerColour(first, null, tone);
}

/** What lies round several layers is kept as long as they stand to each other as they do. */
const wholes = new WeakMap<object, Map<string, string>>();
const numbers = new WeakMap<object, number>();
let lastNumber = 0;

function keptOfWhole(subject: Subject, where: string, draw: (subject: Subject) => string): string {
  const { pieces, finishes, colour, tone, id } = subject;
  if (finishes.length === 0) return '';
  const stand = pieces.map(({ path, x, y }) => [numberOf(path), x.toFixed(3), y.toFixed(3)]);
  const key = JSON.stringify([where, id, stand, finishes, colour, tone]);
  return kept(wholes, pieces[0].path, key, () => draw(subject));
}

function numberOf(path: object): number {
  let number = numbers.get(path);
  if (number === undefined) numbers.set(path, (number = ++lastNumber));
  return number;
}

function colourOf({ colour: ink, tone }: Subject, colour: string): string {
  return finishColour(colour, ink, tone);
}

function boxAttributes({ x, y, width, height }: Box): string {
  return `x="${short(x)}" y="${short(y)}" width="${short(width)}" height="${short(height)}"`;
}

/** A hundredth of a unit is a hundredth of a pixel where a mark is drawn 1,000 px wide. */
function short(value: number): number {
  return Number(value.toFixed(3));
}

/** Factors are multiplied with large numbers, so they keep more. */
function exact(value: number): number {
  return Number(value.toPrecision(9));
}
