import { FULL, type Coverage } from '../ink/plane.ts';

/** Where a mark has ink: points in shares of its ink box, each with its share of all ink. */
export interface InkPoints {
  /** x, y from −0.5 to 0.5 about the middle, and weight, one after the other. */
  readonly values: Float32Array;
  /** Px of the ink's edge for each px of ink, where the ink box is 1 px wide. */
  readonly edge: number;
}

/** Points along the longer side of the ink box. */
const POINTS_LONG_SIDE = 12;
/** Parts of a mark with less ink than this share of what they could hold count for nothing. */
const LEAST_INK = 0.02;
/** Numbers a point has. */
export const POINT_NUMBERS = 3;

/** @param core coverage of the mark in its ink box, any size */
export function inkPoints({ data, width, height }: Coverage): InkPoints {
  const longer = Math.max(width, height);
  const columns = Math.max(1, Math.round((POINTS_LONG_SIDE * width) / longer));
  const rows = Math.max(1, Math.round((POINTS_LONG_SIDE * height) / longer));
  const ink = new Float64Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const row = Math.floor((y * rows) / height) * columns;
    for (let x = 0; x < width; x++) {
      ink[row + Math.floor((x * columns) / width)] += data[y * width + x] / FULL;
    }
  }
  const full = (width * height) / (columns * rows);
  const total = ink.reduce((sum, value) => sum + value, 0) || 1;
  const values: number[] = [];
  ink.forEach((value, at) => {
    if (value < full * LEAST_INK) return;
    values.push(((at % columns) + 0.5) / columns - 0.5);
    values.push((Math.floor(at / columns) + 0.5) / rows - 0.5);
    values.push(value / total);
  });
  return { values: Float32Array.from(values), edge: edgeOf(data, width) };
}

/** How much of the ink lies on its edge, which covers less: the thinner the strokes, the more. */
function edgeOf(data: Uint8Array, width: number): number {
  let ink = 0;
  let edge = 0;
  for (const coverage of data) {
    if (coverage < FULL / 2) continue;
    ink++;
    if (coverage < FULL * WHOLE_COVERAGE) edge++;
  }
  return ink > 0 ? (edge / ink) * width : 0;
}

/** From here on a pixel is as good as covered. */
const WHOLE_COVERAGE = 0.97;
