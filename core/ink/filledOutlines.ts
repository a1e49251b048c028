import type { Size } from '../placement/geometry.ts';
import type { Outline } from './outline.ts';
import { FULL, type Coverage } from './plane.ts';

/** Straight pieces a curve is drawn with: for each this many px of its control polygon, one. */
const PIECE_PX = 3;
const MOST_PIECES = 40;

/**
 * Outlines as coverage, exact for straight edges: signed areas are noted where an edge crosses a
 * pixel and summed along each row. Raph Levien, "Inside the fastest font renderer in the world"
 * (2016).
 */
export function filledOutlines(outlines: readonly Outline[], { width, height }: Size): Coverage {
  const areas = new Float32Array(width * height + 2);
  for (const { start, curves } of outlines) {
    let [x, y] = start;
    for (const curve of curves) {
      const [x1, y1, x2, y2, endX, endY] = curve;
      const length =
        Math.hypot(x1 - x, y1 - y) +
        Math.hypot(x2 - x1, y2 - y1) +
        Math.hypot(endX - x2, endY - y2);
      const pieces = Math.min(MOST_PIECES, Math.max(1, Math.ceil(length / PIECE_PX)));
      let [fromX, fromY] = [x, y];
      for (let piece = 1; piece <= pieces; piece++) {
        const t = piece / pieces;
        const u = 1 - t;
        const toX = u ** 3 * x + 3 * u * u * t * x1 + 3 * u * t * t * x2 + t ** 3 * endX;
        const toY = u ** 3 * y + 3 * u * u * t * y1 + 3 * u * t * t * y2 + t ** 3 * endY;
        addEdge(areas, width, height, fromX, fromY, toX, toY);
        [fromX, fromY] = [toX, toY];
      }
      [x, y] = [endX, endY];
    }
  }
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    let sum = 0;
    for (let at = row * width; at < (row + 1) * width; at++) {
      sum += areas[at];
      data[at] = Math.round(Math.min(1, Math.abs(sum)) * FULL);
    }
  }
  return { data, width, height };
}

function addEdge(
  areas: Float32Array,
  width: number,
  height: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): void {
  if (y0 === y1) return;
  const direction = y0 < y1 ? 1 : -1;
  const [topX, topY, endX, endY] = y0 < y1 ? [x0, y0, x1, y1] : [x1, y1, x0, y0];
  const slope = (endX - topX) / (endY - topY);
  let x = topY < 0 ? topX - topY * slope : topX;
  for (let row = Math.max(0, Math.floor(topY)); row < Math.min(height, Math.ceil(endY)); row++) {
    const tall = Math.min(row + 1, endY) - Math.max(row, topY);
    const nextX = x + slope * tall;
    const left = Math.min(x, nextX);
    const right = Math.max(x, nextX);
    addClipped(areas, row * width, width, left, right, direction * tall);
    x = nextX;
  }
}

/** What of a row's edge is left of the picture covers the whole row; what is right of it nothing. */
function addClipped(
  areas: Float32Array,
  row: number,
  width: number,
  left: number,
  right: number,
  signed: number,
): void {
  const wide = right - left;
  const shareBefore = wide > 0 ? Math.min(1, Math.max(0, -left / wide)) : left <= 0 ? 1 : 0;
  const shareBeyond = wide > 0 ? Math.min(1, Math.max(0, (right - width) / wide)) : 0;
  if (shareBefore > 0) areas[row] += signed * shareBefore;
  const within = signed * (1 - shareBefore - shareBeyond);
  if (within === 0 || left >= width || right <= 0) return;
  addSpan(areas, row, row + width, Math.max(0, left), Math.min(width, right), within);
}

/** One row's share of an edge that runs from `left` to `right` within the row. */
function addSpan(
  areas: Float32Array,
  row: number,
  rowEnd: number,
  left: number,
  right: number,
  signed: number,
): void {
  const first = Math.floor(left);
  const last = Math.ceil(right);
  // What falls beyond the right edge must not reach into the next row.
  if (last <= first + 1) {
    const middle = (left + right) / 2 - first;
    if (row + first < rowEnd) areas[row + first] += signed * (1 - middle);
    if (row + first + 1 < rowEnd) areas[row + first + 1] += signed * middle;
    return;
  }
  // Area to the right of the edge up to each pixel's end, as differences.
  const slope = signed / (right - left);
  let before = 0;
  let beforeArea = 0;
  for (let pixel = first; pixel < last; pixel++) {
    const from = Math.max(left, pixel);
    const to = Math.min(right, pixel + 1);
    const here = slope * (to - from);
    const covered = before + here * (pixel + 1 - (from + to) / 2);
    if (row + pixel < rowEnd) areas[row + pixel] += covered - beforeArea;
    before += here;
    beforeArea = covered;
  }
  if (row + last < rowEnd) areas[row + last] += signed - beforeArea;
}
