import type { Coverage } from '../ink/plane.ts';
import type { Pixels } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';
import type { InkParts } from './inkParts.ts';
import { readRow, roomFor, SUMS, sumRow, type Area } from './measureRows.ts';
import { PartTally } from './partTally.ts';
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

  const area: Area = { photo, x0, y0, width, height, reach, core, left, top };
  // One more row and column of zeroes: sums up to, but not with, a place.
  const stride = width + 1;
  const rooms = roomFor(width * height, stride);
  rooms.table.fill(0, 0, stride * SUMS);
  for (let y = 0; y < height; y++) sumRow(area, y, rooms);
  const found = { ink: 0, reads: 0, bustle: 0 };
  const tally = parts && parts.count > 1 ? new PartTally(parts.count) : null;
  for (let y = 0; y < height; y++) readRow(area, y, rooms, found, tally, parts);
  const { ink, reads, bustle } = found;
  if (ink === 0) return null;
  const share = reads / ink;
  const contrast = medianOf(rooms.differences.subarray(0, ink));
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
