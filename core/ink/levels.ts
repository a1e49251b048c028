import { REFLECTANCE_ONE, type Reflectance } from './plane.ts';

/** The two reflectances between which coverage runs from full to none. */
export interface Levels {
  readonly ink: number;
  readonly paper: number;
}

/** Bins of the histogram over reflectance 0 to `HISTOGRAM_TO`; what is brighter is in the last. */
export const HISTOGRAM_BINS = 320;
export const HISTOGRAM_TO = 1.25;

const BIN_WIDTH = (HISTOGRAM_TO * REFLECTANCE_ONE) / HISTOGRAM_BINS;

/** Levels closer than this would make a hard threshold. */
export const LEAST_APART = 0.05;

/** Paper grain reaches this many standard deviations below its mean before it counts as ink. */
const PAPER_DEVIATIONS = 1;
/** Even noiseless paper gives way this much, for what the field could not follow. */
const PAPER_GIVE = 0.015;
/** Ink is at least this much darker than paper, or than this many deviations of its grain. */
const INK_BELOW = 0.25;
const INK_DEVIATIONS = 6;
/** Solid ink ends where this share of the pixels inside of strokes is at least as dark. */
const SOLID_SHARE = 0.7;
/** Without anything solid (hairlines), the darkest share of the ink shows its depth. */
const HAIRLINE_SHARE = 0.1;
/** Pixels inside of strokes that make up at least this share of the ink are enough to go by. */
const ENOUGH_SOLID = 0.08;

export function reflectanceHistogram({ data }: Reflectance): Uint32Array {
  const bins = new Uint32Array(HISTOGRAM_BINS);
  for (let at = 0; at < data.length; at++) {
    bins[Math.min(HISTOGRAM_BINS - 1, Math.floor(data[at] / BIN_WIDTH))]++;
  }
  return bins;
}

/** Paper's mean reflectance and the deviation of its grain, told from its brighter side. */
function paperOf(histogram: Uint32Array): { mean: number; deviation: number } {
  const first = Math.round((HISTOGRAM_BINS * 0.7) / HISTOGRAM_TO);
  let peak = first;
  for (let bin = first; bin < HISTOGRAM_BINS - 1; bin++) {
    if (smooth(histogram, bin) > smooth(histogram, peak)) peak = bin;
  }
  let above = histogram[peak] / 2;
  for (let bin = peak + 1; bin < HISTOGRAM_BINS; bin++) above += histogram[bin];
  // 68.3 % of a normal half lies within one deviation.
  let seen = histogram[peak] / 2;
  let bin = peak;
  while (seen < above * 0.683 && bin < HISTOGRAM_BINS - 1) seen += histogram[++bin];
  const binWidth = HISTOGRAM_TO / HISTOGRAM_BINS;
  return { mean: (peak + 0.5) * binWidth, deviation: Math.max(0.5, bin - peak) * binWidth };
}

function smooth(histogram: Uint32Array, bin: number): number {
  return (histogram[bin - 1] ?? 0) + 2 * histogram[bin] + (histogram[bin + 1] ?? 0);
}

/** Levels from the picture itself, or null where nothing on the sheet is dark enough to be ink. */
export function automaticLevels(plane: Reflectance, histogram: Uint32Array): Levels | null {
  const { mean, deviation } = paperOf(histogram);
  const paper = mean - Math.max(PAPER_GIVE, PAPER_DEVIATIONS * deviation);
  const isInkBelow = mean - Math.max(INK_BELOW, INK_DEVIATIONS * deviation);
  const ink = inkLevel(plane, isInkBelow);
  if (ink === null) return null;
  return { paper, ink: Math.min(ink, paper - LEAST_APART) };
}

/** How dark solid ink is: from pixels with ink on all sides, or the darkest ones where none are. */
function inkLevel({ data, width, height }: Reflectance, isInkBelow: number): number | null {
  const threshold = Math.max(0, Math.min(isInkBelow * REFLECTANCE_ONE, 65_535));
  const all = new Uint32Array(HISTOGRAM_BINS);
  const inner = new Uint32Array(HISTOGRAM_BINS);
  let count = 0;
  let innerCount = 0;
  for (let y = 0, at = 0; y < height; y++) {
    const isEdgeRow = y === 0 || y === height - 1;
    for (let x = 0; x < width; x++, at++) {
      const value = data[at];
      if (value >= threshold) continue;
      const bin = Math.floor(value / BIN_WIDTH);
      all[bin]++;
      count++;
      if (isEdgeRow || x === 0 || x === width - 1) continue;
      const isInner =
        data[at - 1] < threshold &&
        data[at + 1] < threshold &&
        data[at - width] < threshold &&
        data[at + width] < threshold;
      if (!isInner) continue;
      inner[bin]++;
      innerCount++;
    }
  }
  if (count === 0) return null;
  return innerCount >= count * ENOUGH_SOLID
    ? quantile(inner, innerCount * SOLID_SHARE)
    : quantile(all, count * HAIRLINE_SHARE);
}

function quantile(histogram: Uint32Array, rank: number): number {
  let seen = 0;
  let bin = 0;
  while (bin < HISTOGRAM_BINS - 1 && seen + histogram[bin] < rank) seen += histogram[bin++];
  const within = histogram[bin] > 0 ? (rank - seen) / histogram[bin] : 0;
  return ((bin + within) * HISTOGRAM_TO) / HISTOGRAM_BINS;
}
