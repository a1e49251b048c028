import type { Coverage } from '../ink/plane.ts';
import { FULL } from '../ink/plane.ts';
import type { Pixels } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';
import { lightness } from './lightness.ts';

/** Longer side at which readability is measured, px (contract, section 3). */
export const WORKING_LONG_SIDE_PX = 1_200;

export const READABILITY_CLASSES = ['clear', 'faint', 'lost'] as const;
export type ReadabilityClass = (typeof READABILITY_CLASSES)[number];

/** A measured answer to "can it be read here?". */
export interface Readability {
  readonly class: ReadabilityClass;
  /** Share of the ink that reads, 0 to 1. */
  readonly share: number;
  /** Median difference between ink and the ground round it, L*. */
  readonly contrast: number;
  /** How busy the ground is: its mean standard deviation round the ink, L*. */
  readonly bustle: number;
}

/** Shares from which a mark is clear, and from which it is not yet lost. */
const CLEAR_SHARE = 0.9;
const FAINT_SHARE = 0.6;

/** Coverage from which a pixel is ink, and below which it may be ground. */
const INK_COVERAGE = 0.5;
const GROUND_COVERAGE = 0.1;

/** Ink reads that differs from its ground by this much, L*, and this many standard deviations. */
export const LEAST_DIFFERENCE = 12;
export const LEAST_DEVIATIONS = 1.5;

/** How far round the ink its ground is looked at: at least so many px, else a share of the box. */
const LEAST_REACH_PX = 3;
const REACH_SHARE = 0.04;

export function classOf(share: number): ReadabilityClass {
  if (share >= CLEAR_SHARE) return 'clear';
  return share >= FAINT_SHARE ? 'faint' : 'lost';
}

/** How far beyond the box of a mark the measure looks, px. */
export function reachOf({ width, height }: Pick<Box, 'width' | 'height'>): number {
  return Math.max(LEAST_REACH_PX, Math.round(REACH_SHARE * Math.max(width, height)));
}

/**
 * Readability of one copy of a mark by the definition of the contract, section 3. Sums over windows
 * come from summed-area tables, so the reach costs nothing.
 *
 * @param photo with the mark on it, at the working size
 * @param core coverage of the mark without its finishes, before opacity
 * @param left, top of the coverage in the photo, whole px, may be negative
 * @param box the copy's upright box, px of the photo
 * @returns null where no ink lies in the photo with ground round it
 */
export function measureReadability(
  photo: Pixels,
  core: Coverage,
  left: number,
  top: number,
  box: Box,
): Readability | null {
  const reach = reachOf(box);
  const x0 = Math.max(0, Math.floor(box.x - reach));
  const y0 = Math.max(0, Math.floor(box.y - reach));
  const x1 = Math.min(photo.width, Math.ceil(box.x + box.width + reach));
  const y1 = Math.min(photo.height, Math.ceil(box.y + box.height + reach));
  const width = x1 - x0;
  const height = y1 - y0;
  if (width <= 0 || height <= 0) return null;

  const light = new Float32Array(width * height);
  const isInk = new Uint8Array(width * height);
  // One more row and column of zeroes: sums up to, but not with, a place.
  const stride = width + 1;
  const counts = new Float64Array(stride * (height + 1));
  const sums = new Float64Array(counts.length);
  const squares = new Float64Array(counts.length);
  for (let y = 0; y < height; y++) {
    let count = 0;
    let sum = 0;
    let square = 0;
    let at = ((y0 + y) * photo.width + x0) * photo.channels;
    for (let x = 0; x < width; x++, at += photo.channels) {
      const coverage = coverageAt(core, x0 + x - left, y0 + y - top);
      const l = lightness(photo.data[at], photo.data[at + 1], photo.data[at + 2]);
      light[y * width + x] = l;
      if (coverage >= INK_COVERAGE) isInk[y * width + x] = 1;
      else if (coverage < GROUND_COVERAGE) {
        count++;
        sum += l;
        square += l * l;
      }
      const below = (y + 1) * stride + x + 1;
      counts[below] = counts[below - stride] + count;
      sums[below] = sums[below - stride] + sum;
      squares[below] = squares[below - stride] + square;
    }
  }

  const differences: number[] = [];
  let reads = 0;
  let bustle = 0;
  for (let y = 0; y < height; y++) {
    const upper = Math.max(0, y - reach) * stride;
    const lower = Math.min(height, y + reach + 1) * stride;
    for (let x = 0; x < width; x++) {
      if (isInk[y * width + x] === 0) continue;
      const from = Math.max(0, x - reach);
      const to = Math.min(width, x + reach + 1);
      const within = (table: Float64Array): number =>
        table[lower + to] - table[lower + from] - table[upper + to] + table[upper + from];
      const count = within(counts);
      if (count < 1) continue;
      const mean = within(sums) / count;
      const deviation = Math.sqrt(Math.max(0, within(squares) / count - mean * mean));
      const difference = Math.abs(light[y * width + x] - mean);
      differences.push(difference);
      bustle += deviation;
      if (difference >= LEAST_DIFFERENCE && difference >= LEAST_DEVIATIONS * deviation) reads++;
    }
  }
  if (differences.length === 0) return null;
  const share = reads / differences.length;
  return {
    class: classOf(share),
    share,
    contrast: medianOf(differences),
    bustle: bustle / differences.length,
  };
}

function coverageAt({ data, width, height }: Coverage, x: number, y: number): number {
  return x < 0 || y < 0 || x >= width || y >= height ? 0 : data[y * width + x] / FULL;
}

function medianOf(values: number[]): number {
  const sorted = Float64Array.from(values).sort();
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** With several copies, the one that reads best decides. */
export function bestReadability(copies: readonly (Readability | null)[]): Readability | null {
  return copies.reduce(
    (best, copy) => (copy && (!best || readsBetter(copy, best)) ? copy : best),
    null,
  );
}

/** A higher share, then a higher contrast. */
export function readsBetter(
  one: Pick<Readability, 'share' | 'contrast'>,
  other: Pick<Readability, 'share' | 'contrast'>,
): boolean {
  return one.share !== other.share ? one.share > other.share : one.contrast > other.contrast;
}
