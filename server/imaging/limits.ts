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

/** Taking a box away looks at every pixel of a picture, of which there may be a hundred million. */
export const BOX_TIMEOUT_MS = 60_000;

/** HEIC decoding is slow: about 0.7 s for a photo of a phone. */
export const HEIC_TIMEOUT_MS = 60_000;

/** A scan that is lifted: 35 megapixels is an A4 page at 600 dpi, and some are larger. */
export const MAX_SCAN_PIXELS = 120_000_000;

export const MAX_SCAN_BYTES = 200_000_000;

/** The largest lift takes some ten seconds on a slow machine. */
export const LIFT_TIMEOUT_MS = 90_000;

/** Pages of a PDF are drawn at up to this many px on the longer side. */
export const MAX_PDF_LONG_SIDE_PX = 7_200;

export const PDF_TIMEOUT_MS = 60_000;

/** Nobody picks one page by eye out of more. */
export const MAX_PDF_PAGES = 400;
