import type { FileRule } from '../contract/delivery.ts';
import { TYPE_FACTS } from '../delivery/typeFacts.ts';
import type { Size } from '../placement/geometry.ts';
import type { Difference } from './cells.ts';

/**
 * What codecs lose of cells, and decoders that shrink: on the demo photos in sizes from 100 px on, from quality 50
 * on, a mean of 5.3 and 33 at the worst, at quality 10 of 13 and 53. With more than that nothing is said of a good
 * file.
 */
const USUAL: Difference = Object.freeze({ mean: 7, worst: 80 });
const AT_WORST: Difference = Object.freeze({ mean: 20, worst: 130 });
const FROM_QUALITY = 50;
/** Types that lose nothing: what is left is rounding. */
const LOSSLESS: Difference = Object.freeze({ mean: 1, worst: 6 });
/**
 * Of a file of which it is not known how it was made: at quality 50, JPEG, WebP and AVIF lose of the demo photos a
 * mean of 8 and 97 at the worst, in sizes from 320 px on.
 */
const UNKNOWN: Difference = Object.freeze({ mean: 10, worst: 100 });
/** In smaller photos each pixel differs from the next, which codecs lose: in sizes from 100 px on 12, and 132. */
const SMALL_PX = 320;
const UNKNOWN_SMALL: Difference = Object.freeze({ mean: 15, worst: 140 });

/** From so many px of a side of a cell on, what is lost evens out in it. */
const EVEN_CELL_PX = 4;

/**
 * How far an output may be from what was to be written.
 *
 * @param cellPx of a side of the cells that are compared: those of tiny outputs are small
 */
export function codecLimit(
  { type, quality, max_bytes: maxBytes }: FileRule,
  cellPx: number,
): Difference {
  if (TYPE_FACTS[type].isLossless) return LOSSLESS;
  const lowest = maxBytes === null ? quality : 30;
  const isUsual = typeof lowest !== 'number' || lowest >= FROM_QUALITY;
  const share = isUsual ? 0 : (FROM_QUALITY - lowest) / FROM_QUALITY;
  const times = Math.max(1, EVEN_CELL_PX / cellPx);
  return {
    mean: times * (USUAL.mean + share * (AT_WORST.mean - USUAL.mean)),
    worst: times * (USUAL.worst + share * (AT_WORST.worst - USUAL.worst)),
  };
}

/** How far a file may be from its photo of which nothing else is known. @param frame px */
export function unknownLimit({ width, height }: Size): Difference {
  return Math.max(width, height) < SMALL_PX ? UNKNOWN_SMALL : UNKNOWN;
}

export function isWithin(found: Difference, limit: Difference): boolean {
  return found.mean <= limit.mean && found.worst <= limit.worst;
}
