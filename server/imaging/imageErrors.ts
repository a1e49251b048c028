import { basename } from 'node:path';
import { MAX_PHOTO_PIXELS } from './limits.ts';

/** What sharp and the file system say, as a sentence about a named photo. */

const PIXELS_PER_MEGAPIXEL = 1_000_000;

/** libjpeg's remarks about files that every viewer opens and that lose nothing. */
const HARMLESS = /Invalid SOS parameters|extraneous bytes before marker|Unknown Adobe/i;

export function isHarmlessWarning(error: unknown): boolean {
  return HARMLESS.test(messageOf(error));
}

export function photoSentence(path: string, error: unknown): string {
  const name = basename(path);
  const code = (error as NodeJS.ErrnoException | null)?.code;
  const message = messageOf(error);
  if (code === 'ENOENT' || /Input file is missing/i.test(message)) {
    return `${name} is not there: it was moved, renamed or deleted.`;
  }
  if (code === 'EACCES' || code === 'EPERM') return `${name} may not be read by this user.`;
  if (code === 'EISDIR') return `${name} is a folder, not a photo.`;
  if (message === 'empty file') return `${name} is empty: it has no bytes at all.`;
  if (/exceeds pixel limit|too large/i.test(message)) {
    const limit = MAX_PHOTO_PIXELS / PIXELS_PER_MEGAPIXEL;
    return `${name} is larger than ${limit} megapixels, the most that is taken.`;
  }
  if (/unsupported image format|unable to open|not a known file format|blocked/i.test(message)) {
    return `${name} is not a photo that can be read (JPEG, PNG, WebP, TIFF, AVIF or HEIC).`;
  }
  if (/premature|truncated|end of|unexpected|corrupt|bad|invalid|error/i.test(message)) {
    return `${name} is damaged or cut short and cannot be read whole.`;
  }
  return `${name} could not be read (${firstLine(message)}).`;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

function firstLine(message: string): string {
  return message.split('\n', 1)[0].slice(0, 160);
}
