import { availableParallelism } from 'node:os';

/** Limits on what is read. They keep a hostile or mistaken file from taking the machine. */

/** More photos at once only cost memory: the disk and the memory bus are shared. */
const MOST_AT_ONCE = 4;

/** One photo more than there are cores: while one waits for the disk, the others work. */
export function photosAtOnce(): number {
  return Math.min(availableParallelism() + 1, MOST_AT_ONCE);
}

/** Pixels of whole photos are held for one a core: more would crowd the memory and its bus. */
export function wholePhotosAtOnce(): number {
  return Math.min(availableParallelism(), MOST_AT_ONCE);
}

/** 300 megapixels: above the largest medium format and stitched panoramas, below a bomb. */
export const MAX_PHOTO_PIXELS = 300_000_000;

export const MAX_ARTWORK_PIXELS = 100_000_000;

export const MAX_ARTWORK_BYTES = 50_000_000;

/** A drawing that takes longer than this is stopped. */
export const RASTER_TIMEOUT_MS = 5_000;

/** HEIC decoding is slow: about 0.7 s for a photo of a phone. */
export const HEIC_TIMEOUT_MS = 60_000;
