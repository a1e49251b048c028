import type { Coverage } from '../ink/plane.ts';
import { FULL } from '../ink/plane.ts';
import type { Pixels } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';
import type { InkParts } from './inkParts.ts';
import { PartTally } from './partTally.ts';
import { lightness } from './lightness.ts';
import { medianOf } from './median.ts';

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
  /** Share of the ink that reads in the part of the mark that reads worst, 0 to 1. */
  readonly weakest: number;
  /** Where that part lies, in shares of the frame's width and height; null: the mark is of one part. */
  readonly weakestBox: Box | null;
}

/** Shares from which a mark is clear, in all and in each part, and from which it is not yet lost. */
export const CLEAR_SHARE = 0.9;
const CLEAR_PART = 0.8;
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

/** @param weakest share of the part that reads worst */
export function classOf(share: number, weakest: number): ReadabilityClass {
  if (share >= CLEAR_SHARE && weakest >= CLEAR_PART) return 'clear';
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
 * @param parts of the mark at that size; without them all its ink is one part
 * @returns null where no ink lies in the photo with ground round it
 */
export function measureReadability(
  photo: Pixels,
  core: Coverage,
  left: number,
  top: number,
  box: Box,
  parts: InkParts | null = null,
): Measured | null {
  const reach = reachOf(box);
  const x0 = Math.max(0, Math.floor(box.x - reach));
  const y0 = Math.max(0, Math.floor(box.y - reach));
  const x1 = Math.min(photo.width, Math.ceil(box.x + box.width + reach));
  const y1 = Math.min(photo.height, Math.ceil(box.y + box.height + reach));
  const width = x1 - x0;
  const height = y1 - y0;
  if (width <= 0 || height <= 0) return null;

  // One more row and column of zeroes: sums up to, but not with, a place.
  const stride = width + 1;
  const { light, isInk, table, differences } = roomFor(width * height, stride);
  const row = stride * SUMS;
  table.fill(0, 0, row);
  const inkByte = INK_COVERAGE * FULL;
  const groundByte = GROUND_COVERAGE * FULL;
  const { data, channels } = photo;
  for (let y = 0; y < height; y++) {
    let count = 0;
    let sum = 0;
    let square = 0;
    let at = ((y0 + y) * photo.width + x0) * channels;
    const coreY = y0 + y - top;
    const coreRow = coreY >= 0 && coreY < core.height ? coreY * core.width : -1;
    let below = (y + 1) * row;
    table[below] = table[below + 1] = table[below + 2] = 0;
    for (let x = 0; x < width; x++, at += channels) {
      const coreX = x0 + x - left;
      const isOnCore = coreRow >= 0 && coreX >= 0 && coreX < core.width;
      const coverage = isOnCore ? core.data[coreRow + coreX] : 0;
      const l = lightness(data[at], data[at + 1], data[at + 2]);
      const here = y * width + x;
      light[here] = l;
      isInk[here] = coverage >= inkByte ? 1 : 0;
      if (coverage < groundByte) {
        count++;
        sum += l;
        square += l * l;
      }
      below += SUMS;
      const above = below - row;
      table[below] = table[above] + count;
      table[below + 1] = table[above + 1] + sum;
      table[below + 2] = table[above + 2] + square;
    }
  }

  let ink = 0;
  let reads = 0;
  let bustle = 0;
  const tally = parts && parts.count > 1 ? new PartTally(parts.count) : null;
  for (let y = 0; y < height; y++) {
    const upper = Math.max(0, y - reach) * row;
    const lower = Math.min(height, y + reach + 1) * row;
    for (let x = 0; x < width; x++) {
      if (isInk[y * width + x] === 0) continue;
      const from = Math.max(0, x - reach) * SUMS;
      const to = Math.min(width, x + reach + 1) * SUMS;
      const a = lower + to;
      const b = lower + from;
      const c = upper + to;
      const d = upper + from;
      const count = table[a] - table[b] - table[c] + table[d];
      if (count < 1) continue;
      const mean = (table[a + 1] - table[b + 1] - table[c + 1] + table[d + 1]) / count;
      const square = (table[a + 2] - table[b + 2] - table[c + 2] + table[d + 2]) / count;
      const deviation = Math.sqrt(Math.max(0, square - mean * mean));
      const difference = Math.abs(light[y * width + x] - mean);
      differences[ink++] = difference;
      bustle += deviation;
      const isRead = difference >= LEAST_DIFFERENCE && difference >= LEAST_DEVIATIONS * deviation;
      if (isRead) reads++;
      if (tally && parts) {
        const part = parts.labels[(y0 + y - top) * core.width + x0 + x - left];
        tally.add(part, isRead, x0 + x, y0 + y);
      }
    }
  }
  if (ink === 0) return null;
  const share = reads / ink;
  const contrast = medianOf(differences.subarray(0, ink));
  const weakest = tally?.weakest() ?? { share, box: null };
  return {
    ...{ class: classOf(share, weakest.share), share, contrast, bustle: bustle / ink },
    ...{ weakest: weakest.share, weakestPx: weakest.box },
  };
}

/** A measured copy: where its weakest part lies is still in px of the photo it was measured on. */
export interface Measured extends Omit<Readability, 'weakestBox'> {
  readonly weakestPx: Box | null;
}

/** Sums that the table holds side by side, as they are read: of ones, of L*, of squares of L*. */
const SUMS = 3;

/** Room that is used again for every copy: a batch is measured without making a heap of arrays. */
let room = newRoom(0, 0);

function newRoom(pixels: number, entries: number) {
  return {
    pixels,
    entries,
    light: new Float32Array(pixels),
    isInk: new Uint8Array(pixels),
    differences: new Float64Array(pixels),
    table: new Float64Array(entries * SUMS),
  };
}

function roomFor(pixels: number, stride: number): typeof room {
  const entries = pixels + pixels / (stride - 1) + stride;
  if (room.pixels < pixels || room.entries < entries) {
    room = newRoom(Math.max(pixels, room.pixels), Math.max(entries, room.entries));
  }
  return room;
}

/** What of a reading says which of two is better. */
type Compared = Pick<Readability, 'share' | 'contrast'>;

/** With several copies, the one that reads best decides, by its share. */
export function bestCopy<Copy extends Compared>(copies: readonly (Copy | null)[]): Copy | null {
  return copies.reduce<Copy | null>(
    (best, copy) => (copy && (!best || hasMore(copy, best)) ? copy : best),
    null,
  );
}

/** Clear before what is not, then the higher share, then the higher contrast. */
export function readsBetter(
  one: Compared & Pick<Readability, 'class'>,
  other: Compared & Pick<Readability, 'class'>,
): boolean {
  const isClear = one.class === 'clear';
  return isClear === (other.class === 'clear') ? hasMore(one, other) : isClear;
}

function hasMore(one: Compared, other: Compared): boolean {
  return one.share !== other.share ? one.share > other.share : one.contrast > other.contrast;
}
