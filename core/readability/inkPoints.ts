import { FULL, type Coverage } from '../ink/plane.ts';
import type { Box } from '../placement/geometry.ts';
import { inkParts } from './inkParts.ts';

/** Where a mark has ink: points in shares of its ink box, each with its share of all ink. */
export interface InkPoints {
  /** `POINT_NUMBERS` for each, one after the other. */
  readonly values: Float32Array;
}

/** Numbers a point has, and where each of them lies. */
export const POINT_NUMBERS = 5;
export const POINT = Object.freeze({
  /** From −0.5 to 0.5 about the middle of the ink box. */
  x: 0,
  y: 1,
  /** Share of all ink. */
  weight: 2,
  /** Px of the edge of its part for each px of that part's ink, where the ink box is 1 px wide. */
  edge: 3,
  /** Part of the mark, from 0 on. */
  part: 4,
});

/** Points along the longer side of the ink box. */
const POINTS_LONG_SIDE = 12;
/** Points along a part's longer side, however small it is: its ink is looked at as closely as all. */
const PART_POINTS = 6;
/** Parts that are looked at as closely as that; the more there are, the less each needs. */
const MANY_PARTS = 8;
const LEAST_PART_POINTS = 3;
/** Places of a mark with less ink than this share of what they could hold count for nothing. */
const LEAST_INK = 0.02;
/** From here on a pixel is as good as covered. */
const WHOLE_COVERAGE = 0.97;

/** @param core coverage of the mark in its ink box, any size */
export function inkPoints(core: Coverage): InkPoints {
  const { width, height } = core;
  const longer = Math.max(width, height);
  const { labels, count } = inkParts(core, longer);
  const total = core.data.reduce((sum, coverage) => sum + coverage, 0) || 1;
  const values: number[] = [];
  const least = count > MANY_PARTS ? LEAST_PART_POINTS : PART_POINTS;
  partBoxes(labels, width, count).forEach((box, part) => {
    const share = Math.max(box.width, box.height) / longer;
    const along = Math.max(least, Math.round(POINTS_LONG_SIDE * share));
    values.push(...partPoints(core, labels, part, box, along, total));
  });
  return { values: Float32Array.from(values) };
}

/** Where the ink of each part lies, px. */
function partBoxes(labels: Uint16Array, width: number, count: number): Box[] {
  const edges = Array.from({ length: count }, () => [Infinity, Infinity, -1, -1]);
  labels.forEach((label, at) => {
    if (label === 0) return;
    const edge = edges[label - 1];
    const x = at % width;
    const y = Math.floor(at / width);
    edge[0] = Math.min(edge[0], x);
    edge[1] = Math.min(edge[1], y);
    edge[2] = Math.max(edge[2], x);
    edge[3] = Math.max(edge[3], y);
  });
  return edges.map(([x, y, right, bottom]) => ({
    ...{ x, y },
    width: right - x + 1,
    height: bottom - y + 1,
  }));
}

/** @param total of the coverage of all ink */
function partPoints(
  { data, width, height }: Coverage,
  labels: Uint16Array,
  part: number,
  box: Box,
  along: number,
  total: number,
): number[] {
  const longer = Math.max(box.width, box.height);
  const columns = Math.max(1, Math.round((along * box.width) / longer));
  const rows = Math.max(1, Math.round((along * box.height) / longer));
  const ink = new Float64Array(columns * rows);
  let inked = 0;
  let edge = 0;
  for (let y = box.y; y < box.y + box.height; y++) {
    const row = Math.floor(((y - box.y) * rows) / box.height) * columns;
    for (let x = box.x; x < box.x + box.width; x++) {
      const at = y * width + x;
      if (labels[at] !== part + 1) continue;
      ink[row + Math.floor(((x - box.x) * columns) / box.width)] += data[at];
      inked++;
      if (data[at] < FULL * WHOLE_COVERAGE) edge++;
    }
  }
  // The thinner the strokes, the more of the ink lies on its edge, which covers less.
  const edgeShare = inked > 0 ? (edge / inked) * width : 0;
  const full = (FULL * box.width * box.height) / ink.length;
  const values: number[] = [];
  ink.forEach((sum, at) => {
    if (sum < full * LEAST_INK) return;
    const x = box.x + (((at % columns) + 0.5) * box.width) / columns;
    const y = box.y + ((Math.floor(at / columns) + 0.5) * box.height) / rows;
    values.push(x / width - 0.5, y / height - 0.5, sum / total, edgeShare, part);
  });
  return values;
}
