import type { Design, Layer, Part } from '../contract/design.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { pathText } from '../path/path.ts';
import { matrixOf, type Matrix } from '../path/matrix.ts';
import { finishColour, layerColour } from './colours.ts';
import type { DrawContext } from './context.ts';
import { drawPlate } from './plate.ts';
import { drawOver, drawUnder, type Subject } from './finishSvg.ts';
import { finishedBoxes, finishOf, inkOfShown, shownLayers } from './measure.ts';
import type { ShownLayer } from './measure.ts';
import { kept } from './kept.ts';
import type { Silhouette } from './silhouette.ts';
import { boxAttributes, exact, recoloured, short } from './svgText.ts';

/** A layer, or what lies round several, as SVG about 0, 0: it is shown moved by its place. */
export interface DrawnLayer {
  readonly id: string;
  /** Whether it moves along with the layers in the hand. */
  readonly held: boolean;
  readonly x: number;
  readonly y: number;
  readonly svg: string;
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
