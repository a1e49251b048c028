import type { Layer, Shape } from '../contract/design.ts';
import { setLettering } from '../lettering/setLettering.ts';
import { tokensOf, wordsKey } from '../lettering/words.ts';
import { matrixOf, type Matrix } from '../path/matrix.ts';
import { readPath, transformedPath, type Path, type PathPart } from '../path/path.ts';
import { pathBox } from '../path/pathBox.ts';
import { penPath } from '../pen/penOutline.ts';
import { centreOf, type Box } from '../placement/geometry.ts';
import type { DrawContext } from './context.ts';
import { kept } from './kept.ts';

/**
 * What a layer covers, sized and turned, with its own origin at 0, 0: moving a layer changes
 * nothing here, so all that is made from it can be kept while it is dragged.
 */
export interface Silhouette {
  readonly path: Path;
  /** The ink box; null where nothing is visible. */
  readonly ink: Box | null;
  /** From the layer's own units to these. */
  readonly matrix: Matrix;
}

const NOTHING: Path = [];

const ownPaths = new WeakMap<object, Map<string, Path>>();
const silhouettes = new WeakMap<object, Map<string, Silhouette>>();

export function silhouetteOf(layer: Layer, context: DrawContext): Silhouette {
  const { scaleX, scaleY, turn } = layer.place;
  const content = contentOf(layer, context);
  if (!content) return { path: NOTHING, ink: null, matrix: matrixOf(0, 0, turn, scaleX, scaleY) };
  const key = `${variantOf(layer, context)}|${scaleX}|${scaleY}|${turn}`;
  return kept(silhouettes, content, key, () => {
    const matrix = matrixOf(0, 0, turn, scaleX, scaleY);
    const path = transformedPath(ownPath(layer, context), matrix);
    const ink = exactInk(layer, context, matrix) ?? pathBox(path);
    return { path, ink, matrix };
  });
}

/** The ink box of a layer's content in the layer's own units; null where there is nothing. */
export function ownInk(layer: Layer, context: DrawContext): Box | null {
  if (layer.kind !== 'artwork') return pathBox(ownPath(layer, context));
  const part = context.part(layer.part);
  if (!part) return null;
  const { width, height } = part.ink;
  return { x: -width / 2, y: -height / 2, width, height };
}

/** The object that holds what is drawn: it stays the same while a layer is only placed anew. */
function contentOf(layer: Layer, context: DrawContext): object | null {
  switch (layer.kind) {
    case 'lettering':
      return layer.lettering;
    case 'artwork':
      return context.part(layer.part);
    case 'pen':
      return layer.drawing;
    case 'shape':
      return layer.shape;
    default:
      throw new Error(`Unknown layer ${layer satisfies never}`);
  }
}

function variantOf(layer: Layer, context: DrawContext): string {
  if (layer.kind !== 'lettering') return '';
  const hasFont = context.face(layer.lettering.font) !== null;
  return `${hasFont}${wordsKey(tokensOf(layer.lettering), context.words)}`;
}

/** The layer's path in its own units, its origin where it is placed by. */
function ownPath(layer: Layer, context: DrawContext): Path {
  const content = contentOf(layer, context);
  if (!content) return NOTHING;
  return kept(ownPaths, content, variantOf(layer, context), () => newPath(layer, context));
}

function newPath(layer: Layer, context: DrawContext): Path {
  switch (layer.kind) {
    case 'lettering': {
      const face = context.face(layer.lettering.font);
      if (face) return setLettering(layer.lettering, face, context.words);
      return readOrNothing(layer.lettering.kept ?? '');
    }
    case 'artwork': {
      const part = context.part(layer.part);
      if (!part) return NOTHING;
      const { x, y } = centreOf(part.ink);
      return transformedPath(readOrNothing(part.contour), matrixOf(-x, -y, 0, 1, 1));
    }
    case 'pen':
      return centred(penPath(layer.drawing));
    case 'shape':
      return shapePath(layer.shape);
    default:
      throw new Error(`Unknown layer ${layer satisfies never}`);
  }
}

/** The ink box of artwork is known better than its contour tells, as long as it is upright. */
function exactInk(layer: Layer, context: DrawContext, matrix: Matrix): Box | null {
  if (layer.kind !== 'artwork') return null;
  const part = context.part(layer.part);
  const isUpright = layer.place.turn % 360 === 0;
  if (!part || !isUpright) return null;
  const width = part.ink.width * matrix[0];
  const height = part.ink.height * matrix[3];
  return { x: -width / 2, y: -height / 2, width, height };
}

function readOrNothing(d: string): Path {
  const read = readPath(d);
  return read.ok ? read.value : NOTHING;
}

function centred(path: Path): Path {
  const box = pathBox(path);
  if (!box) return NOTHING;
  const { x, y } = centreOf(box);
  return transformedPath(path, matrixOf(-x, -y, 0, 1, 1));
}

/** Distance of a control point for a quarter of a circle, as a share of the radius. */
const QUARTER_ARC = 0.552_284_75;

function shapePath({ form, width, height, weight, corner }: Shape): Path {
  const [rx, ry] = [width / 2, height / 2];
  switch (form) {
    case 'line':
      return boxPath(width, height, height / 2);
    case 'box':
      return boxPath(width, height, corner);
    case 'circle':
      return ellipse(rx, ry, 1);
    case 'ring': {
      const stroke = Math.min(weight, rx, ry);
      return [...ellipse(rx, ry, 1), ...ellipse(rx - stroke, ry - stroke, -1)];
    }
    default:
      throw new Error(`Unknown shape ${form satisfies never}`);
  }
}

/** @param sense 1 clockwise, -1 the other way round, which makes a hole */
function ellipse(rx: number, ry: number, sense: 1 | -1): PathPart[] {
  if (rx <= 0 || ry <= 0) return [];
  const [kx, ky, s] = [rx * QUARTER_ARC, ry * QUARTER_ARC, sense];
  return [
    { op: 'M', at: [0, -ry] },
    { op: 'C', at: [s * kx, -ry, s * rx, -ky, s * rx, 0] },
    { op: 'C', at: [s * rx, ky, s * kx, ry, 0, ry] },
    { op: 'C', at: [-s * kx, ry, -s * rx, ky, -s * rx, 0] },
    { op: 'C', at: [-s * rx, -ky, -s * kx, -ry, 0, -ry] },
    { op: 'Z', at: [] },
  ];
}

/** A box about 0, 0 with round corners. */
export function boxPath(width: number, height: number, corner: number): Path {
  const [rx, ry] = [width / 2, height / 2];
  const r = Math.min(corner, rx, ry);
  if (r <= 0) {
    return [
      { op: 'M', at: [-rx, -ry] },
      { op: 'L', at: [rx, -ry] },
      { op: 'L', at: [rx, ry] },
      { op: 'L', at: [-rx, ry] },
      { op: 'Z', at: [] },
    ];
  }
  const k = r * (1 - QUARTER_ARC);
  return [
    { op: 'M', at: [-rx + r, -ry] },
    { op: 'L', at: [rx - r, -ry] },
    { op: 'C', at: [rx - k, -ry, rx, -ry + k, rx, -ry + r] },
    { op: 'L', at: [rx, ry - r] },
    { op: 'C', at: [rx, ry - k, rx - k, ry, rx - r, ry] },
    { op: 'L', at: [-rx + r, ry] },
    { op: 'C', at: [-rx + k, ry, -rx, ry - k, -rx, ry - r] },
    { op: 'L', at: [-rx, -ry + r] },
    { op: 'C', at: [-rx, -ry + k, -rx + k, -ry, -rx + r, -ry] },
    { op: 'Z', at: [] },
  ];
}
