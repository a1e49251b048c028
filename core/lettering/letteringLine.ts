import { EM_UNITS, type LetteringLine } from '../contract/design.ts';
import type { PenDrawing } from '../contract/pen.ts';
import { matrixOf } from '../path/matrix.ts';
import { transformedPath, type Path, type PathPart } from '../path/path.ts';
import { pathBox } from '../path/pathBox.ts';
import { penPath } from '../pen/penOutline.ts';
import { bentPlace, type Bend } from './bend.ts';

/** The words a line belongs to: their middle and width, and the baseline or top it is set from. */
export interface LineField {
  readonly centreX: number;
  readonly width: number;
  readonly y: number;
}

/** Straight pieces a line is made of where it follows an arc. */
const PIECES = 48;

/** Percent of the em, in units. */
const ofEm = (percent: number): number => (percent * EM_UNITS) / 100;

/** A line beneath or above words: straight, tapered to both ends, or strokes of one's own. */
export function letteringLine(line: LetteringLine, field: LineField, bend: Bend | null): Path {
  const width = (field.width * line.length) / 100;
  const y = field.y + (line.where === 'above' ? -1 : 1) * ofEm(line.gap);
  const left = field.centreX - width / 2;
  if (width <= 0) return [];
  if (line.form === 'flourish' && line.drawing) return flourish(line.drawing, left, y, width);
  const weight = ofEm(line.weight);
  // A flourish that is not drawn yet is shown as the line it will replace.
  const isTapered = line.form !== 'straight';
  return bend
    ? bentLine(left, y, width, weight, isTapered, bend)
    : straightLine(left, y, width, weight, isTapered);
}

function straightLine(
  left: number,
  y: number,
  width: number,
  weight: number,
  isTapered: boolean,
): Path {
  const right = left + width;
  if (!isTapered) {
    const [top, bottom] = [y - weight / 2, y + weight / 2];
    return ring([
      { op: 'M', at: [left, top] },
      { op: 'L', at: [right, top] },
      { op: 'L', at: [right, bottom] },
      { op: 'L', at: [left, bottom] },
    ]);
  }
  // A quadratic curve reaches half of what its control point is away.
  return ring([
    { op: 'M', at: [left, y] },
    { op: 'Q', at: [left + width / 2, y - weight, right, y] },
    { op: 'Q', at: [left + width / 2, y + weight, left, y] },
  ]);
}

function bentLine(
  left: number,
  y: number,
  width: number,
  weight: number,
  isTapered: boolean,
  bend: Bend,
): Path {
  const side = (sign: 1 | -1): number[][] =>
    Array.from({ length: PIECES + 1 }, (_, index) => {
      const share = index / PIECES;
      const half = (weight / 2) * (isTapered ? 4 * share * (1 - share) : 1);
      const place = bentPlace(left + width * share, y + sign * half, bend);
      return [place.x, place.y];
    });
  const points = [...side(-1), ...side(1).reverse()];
  return ring(points.map((at, index) => ({ op: index === 0 ? 'M' : 'L', at })));
}

function ring(parts: readonly PathPart[]): Path {
  return [...parts, { op: 'Z', at: [] }];
}

function flourish(drawing: PenDrawing, left: number, y: number, width: number): Path {
  const path = penPath(drawing);
  const box = pathBox(path);
  if (!box) return [];
  const scale = width / Math.max(box.width, 1e-6);
  const place = matrixOf(
    left - box.x * scale,
    y - (box.y + box.height / 2) * scale,
    0,
    scale,
    scale,
  );
  return transformedPath(path, place);
}
