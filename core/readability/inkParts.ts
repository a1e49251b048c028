import { componentsOf, runsOf, type Run } from '../ink/components.ts';
import { FULL, type Coverage } from '../ink/plane.ts';
import type { Size } from '../placement/geometry.ts';

/**
 * Parts of a mark, as the eye takes them apart (contract, section 5, *Weakest part*): a big emblem must not
 * hide that the words under it are lost.
 */
export interface InkParts {
  /** Part that each pixel of the coverage belongs to, from 1 on; 0: it is no ink. */
  readonly labels: Uint16Array;
  readonly count: number;
}

/** Coverage from which a pixel is ink. */
const INK_BYTE = FULL / 2;
/** Ink hangs together that is this near, as a share of the longer side of the ink box, on each side. */
const GROWTH = 0.02;
/** A part with less of the ink than this belongs to another. */
const LEAST_SHARE = 0.01;
/** More pieces than this are a texture: what is small in it belongs to the largest. */
const MOST_PIECES = 400;

const known = new WeakMap<Coverage, InkParts>();

/**
 * @param core coverage without finishes; the parts of one object are worked out once
 * @param longerSidePx of its ink box before it is turned
 */
export function inkParts(core: Coverage, longerSidePx: number): InkParts {
  let parts = known.get(core);
  if (!parts) known.set(core, (parts = partsOf(core, GROWTH * longerSidePx)));
  return parts;
}

function partsOf(core: Coverage, radiusPx: number): InkParts {
  const { width, height } = core;
  const runs = runsOf(core, INK_BYTE, FULL);
  const { grown, margin } = grownInk(runs, core, radiusPx);
  const pieces = componentsOf(grown, FULL, FULL, true);
  const wide = grown.width;
  const places = new Int32Array(grown.data.length).fill(-1);
  for (const { y, x, end, component } of pieces.runs) {
    places.fill(component, y * wide + x, y * wide + end);
  }
  const pieceAt = (x: number, y: number): number => places[(y + margin) * wide + x + margin];
  const inks = inkOf(runs, pieces.components.length, pieceAt);
  const joined = joinedPieces(inks);
  const labels = new Uint16Array(width * height);
  const numbers = new Map<number, number>();
  for (const { y, x, end } of runs) {
    const part = joined[pieceAt(x, y)];
    let number = numbers.get(part);
    if (number === undefined) numbers.set(part, (number = numbers.size + 1));
    labels.fill(number, y * width + x, y * width + end);
  }
  return { labels, count: numbers.size };
}

/** Every pixel within the radius of ink, on a plane with room for it at the edges. */
function grownInk(runs: readonly Run[], { width, height }: Size, radiusPx: number) {
  const margin = Math.ceil(radiusPx);
  const wide = width + 2 * margin;
  const high = height + 2 * margin;
  const grown = new Uint8Array(wide * high);
  // Half the width of the disc in each row above and below its middle.
  const halves = Array.from({ length: Math.floor(radiusPx) + 1 }, (_, row) =>
    Math.floor(Math.sqrt(radiusPx * radiusPx - row * row)),
  );
  for (const { y, x, end } of runs) {
    halves.forEach((half, row) => {
      for (const side of row === 0 ? [0] : [-row, row]) {
        const at = (y + margin + side) * wide + margin;
        grown.fill(FULL, at + x - half, at + end + half);
      }
    });
  }
  return { grown: { data: grown, width: wide, height: high }, margin };
}

/** The ink of a piece: its area, and where it lies, row by row. */
interface PieceInk {
  readonly area: number;
  /** y, first x and last x of each run, one after the other. */
  readonly runs: readonly number[];
}

function inkOf(
  runs: readonly Run[],
  count: number,
  pieceAt: (x: number, y: number) => number,
): PieceInk[] {
  const inks = Array.from({ length: count }, () => ({ area: 0, runs: [] as number[] }));
  for (const { y, x, end } of runs) {
    const ink = inks[pieceAt(x, y)];
    ink.area += end - x;
    ink.runs.push(y, x, end - 1);
  }
  return inks;
}

/**
 * Joins pieces that have too little of the ink, the least first, to the nearest that has more: so the
 * letters of a small word become that word.
 *
 * @returns for each piece, the piece that stands for its part
 */
function joinedPieces(inks: readonly PieceInk[]): Int32Array {
  const total = inks.reduce((sum, { area }) => sum + area, 0);
  if (inks.length > MOST_PIECES) return joinedTexture(inks, LEAST_SHARE * total);
  const stands = Int32Array.from(inks, (_, index) => index);
  const parts = new Map(inks.map(({ area, runs }, index) => [index, { area, runs: [...runs] }]));
  const join = (small: number, into: number): void => {
    const from = parts.get(small);
    const to = parts.get(into);
    if (!from || !to) return;
    to.area += from.area;
    for (const run of from.runs) to.runs.push(run);
    parts.delete(small);
    stands.forEach((part, index) => {
      if (part === small) stands[index] = into;
    });
  };
  while (parts.size > 1) {
    const [small, { area, runs: own }] = [...parts].reduce((a, b) =>
      b[1].area < a[1].area ? b : a,
    );
    if (area >= LEAST_SHARE * total) break;
    let nearest = { index: -1, apart: Infinity };
    for (const [index, { runs }] of parts) {
      if (index === small) continue;
      const apart = squaredDistance(own, runs, nearest.apart);
      if (apart < nearest.apart) nearest = { index, apart };
    }
    join(small, nearest.index);
  }
  return stands;
}

function joinedTexture(inks: readonly PieceInk[], leastArea: number): Int32Array {
  const largest = inks.reduce(
    (best, { area }, index) => (area > inks[best].area ? index : best),
    0,
  );
  return Int32Array.from(inks, ({ area }, index) => (area < leastArea ? largest : index));
}

/** Of the nearest pixels of two pieces, px²; anything not below `limit` will do where it is farther. */
function squaredDistance(a: readonly number[], b: readonly number[], limit: number): number {
  let least = limit;
  for (let at = 0; at < a.length; at += 3) {
    for (let other = 0; other < b.length; other += 3) {
      const down = a[at] - b[other];
      if (down * down >= least) continue;
      const across = Math.max(0, b[other + 1] - a[at + 2], a[at + 1] - b[other + 2]);
      least = Math.min(least, down * down + across * across);
    }
  }
  return least;
}
