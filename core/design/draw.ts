import type { Design, Layer, Part } from '../contract/design.ts';
import { unitsOf, type Finish, type FinishOf } from '../contract/finish.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { pathText, transformedPath, type Path } from '../path/path.ts';
import { grownBox } from '../path/pathBox.ts';
import { matrixOf, type Matrix } from '../path/matrix.ts';
import type { Box } from '../placement/geometry.ts';
import { finishColour, layerColour } from './colours.ts';
import type { DrawContext } from './context.ts';
import { drawPlate } from './plate.ts';
import { finishedBoxes, finishOf, inkOfShown, outlineReach, shownLayers } from './measure.ts';
import type { ShownLayer } from './measure.ts';
import type { Silhouette } from './silhouette.ts';
import { bevelPicture, glowPicture, shadowPicture } from './soft/softPictures.ts';
import type { SoftPicture } from './soft/softPictures.ts';

/** A layer as SVG, its own origin at 0, 0: it is shown moved by its place. */
export interface DrawnLayer {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly svg: string;
}

/** A design as SVG in pieces, from below: `under`, the layers, `over`. */
export interface DrawnDesign {
  readonly under: string;
  readonly layers: readonly DrawnLayer[];
  readonly over: string;
}

/** A silhouette with all that its finishes need to know. */
interface Subject {
  readonly paths: readonly Path[];
  readonly ink: Box;
  readonly colour: string | null;
  readonly tone: ToneChoice;
  readonly finishes: readonly Finish[];
  /** Unique within the document. */
  readonly id: string;
}

/** @param prefix makes ids unique where several drawings share a document */
export function drawDesign(
  design: Design,
  tone: ToneChoice,
  context: DrawContext,
  prefix = 'lc',
): DrawnDesign | null {
  const shown = shownLayers(design, context);
  if (shown.length === 0) return null;
  const wholeFill = finishOf(design.finishes, 'fill')?.opacity ?? 1;
  const layers = shown.map(({ layer, silhouette }, index) =>
    drawLayer(layer, silhouette, tone, context, wholeFill, `${prefix}${index}`),
  );
  const whole = wholeSubject(design, shown, tone, `${prefix}w`);
  return { layers, under: drawUnder(whole, wholeFill < 1), over: drawOver(whole) };
}

function drawLayer(
  layer: Layer,
  silhouette: ShownLayer['silhouette'],
  tone: ToneChoice,
  context: DrawContext,
  wholeFill: number,
  id: string,
): DrawnLayer {
  const part = layer.kind === 'artwork' ? context.part(layer.part) : null;
  const colour = layerColour(layer, part, tone);
  const fill = (finishOf(layer.finishes, 'fill')?.opacity ?? 1) * wholeFill;
  const subject: Subject = {
    ...{ paths: [silhouette.path], ink: silhouette.ink, colour, tone, id },
    finishes: layer.finishes,
  };
  const under = drawUnder(subject, fill < 1 || part?.kind === 'png');
  const body = fill <= 0 ? '' : drawBody(silhouette, part, colour, fill, id);
  const svg = under + body + drawOver(subject);
  return {
    ...{ id: layer.id, x: layer.place.x, y: layer.place.y },
    svg: layer.opacity < 1 ? `<g opacity="${short(layer.opacity)}">${svg}</g>` : svg,
  };
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
  const { finishes, ink, paths } = subject;
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
      shadowPicture(paths, ink, shadow, grown, colour),
    );
  }
  if (glow) {
    const colour = colourOf(subject, glow.colour);
    soft += softImage(subject, glow, grown, colour, () =>
      glowPicture(paths, ink, glow, grown, colour),
    );
  }
  if (outline?.position === 'outside') soft += stroke(subject, outline, 2);
  // What shows through the ink, or round its soft edges, must not be there.
  if (soft !== '' && isSeenThrough) soft = behind(soft, paths, reach, subject.id);
  return plate ? drawPlate(plate, bare, colourOf(subject, plate.colour)) + soft : soft;
}

/** What lies on the ink: an outline on its edge, the light and shade of a bevel. */
function drawOver(subject: Subject): string {
  const outline = finishOf(subject.finishes, 'outline');
  const bevel = finishOf(subject.finishes, 'bevel');
  let svg = '';
  if (bevel) {
    const clip = `${subject.id}b`;
    const shapes = subject.paths.map((path) => `<path d="${pathText(path)}"/>`).join('');
    const image = softImage(subject, bevel, 0, '', () =>
      bevelPicture(subject.paths, subject.ink, bevel),
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
  const lines = subject.paths.map((path) => `<path d="${pathText(path)}"/>`).join('');
  // The inside is filled, too: no gap shows between an outline and ink with soft edges.
  const fill = widths === 2 ? colour : 'none';
  return (
    `<g fill="${fill}" stroke="${colour}" stroke-width="${width}" stroke-linejoin="round" ` +
    `stroke-linecap="round"${faint}>${lines}</g>`
  );
}

/** The content with the silhouette cut out of it. */
function behind(content: string, paths: readonly Path[], room: Box, id: string): string {
  const shapes = paths.map((path) => `<path d="${pathText(path)}"/>`).join('');
  const area = boxAttributes(grownBox(room, 1));
  return (
    `<mask id="${id}m" maskUnits="userSpaceOnUse" ${area}>` +
    `<rect ${area} fill="#fff"/>${shapes}</mask><g mask="url(#${id}m)">${content}</g>`
  );
}

/** Pictures made for a silhouette, by finish: dragging a layer makes none anew. */
const pictures = new WeakMap<Path, Map<string, SoftPicture>>();
/** Finishes of one silhouette while a control is dragged, before the oldest are forgotten. */
const KEPT_PICTURES = 12;

function softImage(
  { paths }: Subject,
  finish: Finish,
  grown: number,
  colour: string,
  make: () => SoftPicture,
): string {
  const { box, href } = paths.length === 1 ? keptPicture(paths[0]) : make();
  return `<image ${boxAttributes(box)} preserveAspectRatio="none" href="${href}"/>`;

  function keptPicture(path: Path): SoftPicture {
    const key = `${JSON.stringify(finish)}|${grown}|${colour}`;
    let known = pictures.get(path);
    if (!known) pictures.set(path, (known = new Map()));
    let found = known.get(key);
    if (!found) {
      const oldest = known.keys().next().value;
      if (known.size >= KEPT_PICTURES && oldest !== undefined) known.delete(oldest);
      known.set(key, (found = make()));
    }
    return found;
  }
}

/** All layers as one silhouette, for the finishes of the whole mark. */
function wholeSubject(
  { finishes }: Design,
  shown: readonly ShownLayer[],
  tone: ToneChoice,
  id: string,
): Subject {
  const needsPaths = finishes.some(({ kind }) => kind !== 'plate' && kind !== 'crispness');
  const paths = needsPaths
    ? shown.map(({ layer: { place }, silhouette }) =>
        transformedPath(silhouette.path, matrixOf(place.x, place.y, 0, 1, 1)),
      )
    : [];
  const ink = inkOfShown(shown);
  const first = shown.find(({ layer }) => layer.toned)?.layer ?? shown[0].layer;
  return { paths, ink, colour: layerColour(first, null, tone), tone, finishes, id };
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
