import type { Box } from '../placement/geometry.ts';
import type { Coverage } from './plane.ts';

/** Pixels of one row that hang together: `x` to before `end`. */
export interface Run {
  readonly y: number;
  readonly x: number;
  readonly end: number;
  component: number;
}

/** Pixels that hang together. */
export interface Component {
  /** px² */
  readonly area: number;
  /** Largest and mean value, 0 to 255. */
  readonly peak: number;
  readonly mean: number;
  readonly box: Box;
  /** Length of the outline, px, estimated from the steps between rows and columns. */
  readonly outline: number;
}

export interface Components {
  readonly runs: readonly Run[];
  readonly components: readonly Component[];
}

/** Steps between pixels overstate a slanted outline by this on average (Cauchy–Crofton). */
const OUTLINE_PER_STEP = Math.PI / 4;

/**
 * Connected areas of the pixels for which `low ≤ value ≤ high`, found by runs, since ink is sparse.
 *
 * @param diagonal whether pixels touching at a corner hang together
 */
export function componentsOf(
  plane: Coverage,
  low: number,
  high: number,
  diagonal: boolean,
): Components {
  const runs = runsOf(plane, low, high);
  const { parents, overlaps } = joined(runs, diagonal ? 1 : 0);
  return summed(plane, runs, parents, overlaps);
}

/** Row by row, those of pixels for which `low ≤ value ≤ high`; they are of no component yet. */
export function runsOf(plane: Coverage, low: number, high: number): Run[] {
  const runs: Run[] = [];
  for (let y = 0; y < plane.height; y++) addRuns(plane, y, low, high, runs);
  return runs;
}

/** By a call for each row: the first marks of a process are made fast sooner. */
function addRuns(
  { data, width }: Coverage,
  y: number,
  low: number,
  high: number,
  runs: Run[],
): void {
  const row = y * width;
  for (let x = 0; x < width; x++) {
    const value = data[row + x];
    if (value < low || value > high) continue;
    const start = x;
    while (++x < width && data[row + x] >= low && data[row + x] <= high);
    runs.push({ y, x: start, end: x, component: -1 });
  }
}

/** Union-find over the runs of neighbouring rows; also how many pixels of a run have one above. */
function joined(runs: readonly Run[], reach: number) {
  const parents = Int32Array.from(runs, (_, index) => index);
  const overlaps = new Int32Array(runs.length);
  const rootOf = (index: number): number => {
    let root = index;
    while (parents[root] !== root) root = parents[root] = parents[parents[root]];
    return root;
  };
  let above = 0;
  for (let index = 0; index < runs.length; index++) {
    const run = runs[index];
    while (runs[above].y < run.y - 1) above++;
    let near = above;
    while (runs[near].y === run.y - 1 && runs[near].end + reach <= run.x) near++;
    above = Math.min(near, index);
    for (; near < index && runs[near].y === run.y - 1 && runs[near].x < run.end + reach; near++) {
      const shared = Math.min(run.end, runs[near].end) - Math.max(run.x, runs[near].x);
      overlaps[index] += Math.max(0, shared);
      const a = rootOf(index);
      const b = rootOf(near);
      parents[Math.max(a, b)] = Math.min(a, b);
    }
  }
  for (let index = 0; index < runs.length; index++) rootOf(index);
  return { parents: parents.map((_, index) => rootOf(index)), overlaps };
}

function summed(
  { data, width }: Coverage,
  runs: readonly Run[],
  roots: Int32Array,
  overlaps: Int32Array,
): Components {
  const places = new Map<number, number>();
  const sums: Sum[] = [];
  runs.forEach((run, index) => {
    let place = places.get(roots[index]);
    if (place === undefined) {
      place = sums.length;
      places.set(roots[index], place);
      sums.push(new Sum());
    }
    run.component = place;
    sums[place].add(run, overlaps[index], data, width);
  });
  return { runs, components: sums.map((sum) => sum.component()) };
}

class Sum {
  private area = 0;
  private total = 0;
  private peak = 0;
  private rows = 0;
  private shared = 0;
  private left = Infinity;
  private right = -Infinity;
  private top = Infinity;
  private bottom = -Infinity;

  add(run: Run, overlap: number, data: Uint8Array, width: number): void {
    for (let x = run.x, at = run.y * width + run.x; x < run.end; x++, at++) {
      this.total += data[at];
      if (data[at] > this.peak) this.peak = data[at];
    }
    this.area += run.end - run.x;
    this.rows++;
    this.shared += overlap;
    this.left = Math.min(this.left, run.x);
    this.right = Math.max(this.right, run.end);
    this.top = Math.min(this.top, run.y);
    this.bottom = Math.max(this.bottom, run.y + 1);
  }

  component(): Component {
    // Each run has two ends; each pixel has a step above and below, less what is shared by rows.
    const steps = 2 * this.rows + 2 * this.area - 2 * this.shared;
    return {
      area: this.area,
      peak: this.peak,
      mean: this.total / this.area,
      box: {
        x: this.left,
        y: this.top,
        width: this.right - this.left,
        height: this.bottom - this.top,
      },
      outline: steps * OUTLINE_PER_STEP,
    };
  }
}
