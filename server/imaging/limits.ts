import { availableParallelism } from 'node:os';

/** Limits on what is read. They keep a hostile or mistaken file from taking the machine. */

/** More photos at once only cost memory: the disk and the memory bus are shared. */
const MOST_AT_ONCE = 4;

/** One photo more than there are processes for them: the next is at hand when one of them is free. */
export function photosAtOnce(): number {
  return Math.min(availableParallelism() + 1, MOST_AT_ONCE);
}

/**
 * Pixels worked on at once, the next photo included: three of a large camera. One that is larger waits
 * until it has the machine to itself.
 */
export const PIXELS_AT_ONCE = 130_000_000;

/** One for each core. A process keeps some 250 MB once it held a whole photo, so none is spare. */
export function photoProcesses(): number {
  return Math.min(availableParallelism(), MOST_AT_ONCE);
}

/** For what the page waits for: one may be held up by a slow file while the other goes on. */
export function pageProcesses(): number {
  return 2;
}

/** 300 megapixels: above the largest medium format and stitched panoramas, below a bomb. */
export const MAX_PHOTO_PIXELS = 300_000_000;

export const MAX_ARTWORK_PIXELS = 100_000_000;

export const MAX_ARTWORK_BYTES = 50_000_000;

/** A drawing that takes longer than this is stopped. */
export const RASTER_TIMEOUT_MS = 5_000;

/** Artwork, a design, a look at a proxy: the largest picture takes some seconds. */
export const INTAKE_TIMEOUT_MS = 60_000;

/** Reading a photo: the largest take some ten seconds, on a slow disk a few times that. */
export const PHOTO_TIMEOUT_MS = 90_000;

export const FONT_TIMEOUT_MS = 10_000;

const RENDER_BASE_MS = 60_000;
const RENDER_MS_PER_MEGAPIXEL = 1_500;
/** One encoder is far slower than all others. */
const SLOW_ENCODER = 8;

/** What making outputs of these types may take: ten times what it does on a slow machine. */
export function renderTimeoutMs(pixels: number, types: readonly string[]): number {
  const slowness = types.reduce((sum, type) => sum + (type === 'avif' ? SLOW_ENCODER : 1), 0);
  return RENDER_BASE_MS + Math.round((pixels / 1e6) * RENDER_MS_PER_MEGAPIXEL * slowness);
}

const SHEETS_BASE_MS = 60_000;
const SHEETS_MS_A_PHOTO = 4_000;
const SHEETS_MS_A_FILE = 60_000;

/** What putting photos on sheets may take: ten times what it does on a slow machine. */
export function sheetsTimeoutMs(photos: number, files: number): number {
  return SHEETS_BASE_MS + photos * SHEETS_MS_A_PHOTO + files * SHEETS_MS_A_FILE;
}

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
