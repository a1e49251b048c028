import { UNTOUCHED, type FileRule } from '../contract/delivery.ts';
import type { Size } from '../placement/geometry.ts';
import { MOST_QUALITY } from './bestQuality.ts';
import { TYPE_FACTS } from './typeFacts.ts';

/**
 * Bytes a pixel of a typical photo takes, read off the demo photos at quality 88; the lossy types
 * about double with every twelve steps of quality. Good for "about 40 MB", no more.
 */
const BYTES_PER_PIXEL = Object.freeze({ jpeg: 0.19, webp: 0.13, avif: 0.16, png: 1.5, tiff: 1.9 });
const REFERENCE_QUALITY = 88;
const QUALITY_STEPS_TO_DOUBLE = 12;
const SUBSAMPLED = 0.85;
/** The lower byte of each of three samples is close to noise, which does not shrink. */
const LOWER_BYTES = 3;

/**
 * @param photo bits a sample that it has, since files that keep them are larger, and its bytes, which a
 *   file that stays untouched has as well
 */
export function estimatedBytes(
  frame: Size,
  file: FileRule,
  { bits, bytes: own }: { readonly bits: number; readonly bytes?: number } = { bits: 8 },
): number {
  if (file.quality === UNTOUCHED && own !== undefined) return own;
  const pixels = frame.width * frame.height;
  const reference = BYTES_PER_PIXEL[file.type];
  if (file.type === 'png' || file.type === 'tiff') {
    const isDeep = Math.min(bits, TYPE_FACTS[file.type].depth) > 8;
    return Math.round(pixels * (reference + (isDeep ? LOWER_BYTES : 0)));
  }
  const isLimited = file.max_bytes !== null && file.type !== 'avif';
  const asked = file.quality === UNTOUCHED ? MOST_QUALITY : file.quality;
  const wished = isLimited ? MOST_QUALITY : asked;
  const quality = 2 ** ((wished - REFERENCE_QUALITY) / QUALITY_STEPS_TO_DOUBLE);
  const chroma = file.type === 'jpeg' && file.chroma === '4:2:0' ? SUBSAMPLED : 1;
  const bytes = Math.round(pixels * reference * quality * chroma);
  return isLimited ? Math.min(bytes, file.max_bytes ?? bytes) : bytes;
}
