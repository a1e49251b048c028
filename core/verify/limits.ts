import type { FileRule } from '../contract/delivery.ts';
import { TYPE_FACTS } from '../delivery/typeFacts.ts';
import type { Difference } from './cells.ts';

/**
 * What codecs lose of cells, and decoders that shrink: on the demo photos, from quality 50 on, a mean of
 * 3.5 and 40 at the worst, at the least quality 10 and 65. With twice that nothing is said of a good file.
 */
const USUAL: Difference = Object.freeze({ mean: 7, worst: 80 });
const AT_WORST: Difference = Object.freeze({ mean: 20, worst: 130 });
const FROM_QUALITY = 50;
/** Types that lose nothing: what is left is rounding. */
const LOSSLESS: Difference = Object.freeze({ mean: 1, worst: 6 });
/** Of a file of which it is not known how it was made. */
export const UNKNOWN_LIMIT: Difference = Object.freeze({ mean: 10, worst: 80 });

/** How far an output may be from what was to be written. */
export function codecLimit({ type, quality, max_bytes: maxBytes }: FileRule): Difference {
  if (TYPE_FACTS[type].isLossless) return LOSSLESS;
  const lowest = maxBytes === null ? quality : 30;
  if (typeof lowest !== 'number' || lowest >= FROM_QUALITY) return USUAL;
  const share = (FROM_QUALITY - lowest) / FROM_QUALITY;
  return {
    mean: USUAL.mean + share * (AT_WORST.mean - USUAL.mean),
    worst: USUAL.worst + share * (AT_WORST.worst - USUAL.worst),
  };
}

export function isWithin(found: Difference, limit: Difference): boolean {
  return found.mean <= limit.mean && found.worst <= limit.worst;
}
