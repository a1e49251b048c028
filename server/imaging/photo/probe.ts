import { stat } from 'node:fs/promises';
import exifr from 'exifr';
import type { Metadata } from 'sharp';
import type { PhotoFacts } from '#core/lettering/photoWords';
import type { Size } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import { rawFileSentence } from './rawFile.ts';
import { photoSentence } from '../imageErrors.ts';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import type { SourceMetadata } from '../metadata/blocks.ts';
import { describedBy } from '../metadata/rights.ts';
import { withoutPreamble } from '../metadata/exifBlock.ts';
import { sharp } from '../sharp.ts';

/** How the picture of a file is stored. */
export interface PictureFacts {
  /** Turned upright. */
  readonly size: Size;
  /** How it is stored, 1 to 8 (CIPA DC-008, 4.6.5.1.6). */
  readonly orientation: number;
  /** Null: none that photos are read of. */
  readonly format: PhotoFormat | null;
  readonly bitsPerChannel: number;
  readonly hasAlpha: boolean;
  /** Whether its samples are red, green and blue. */
  readonly colours: PhotoColours;
  readonly icc: Buffer | null;
}

/** What a photo file says of itself, before a pixel is read. */
export interface ProbedPhoto extends PictureFacts {
  readonly format: PhotoFormat;
  readonly bytes: number;
  readonly modifiedMs: number;
  readonly device: string;
  readonly inode: string;
  readonly metadata: SourceMetadata;
}

export type PhotoColours = 'rgb' | 'cmyk' | 'grey';

export const PHOTO_FORMATS = ['jpeg', 'png', 'webp', 'tiff', 'avif', 'heic'] as const;
export type PhotoFormat = (typeof PHOTO_FORMATS)[number];

/** File endings under which photos are looked for in a folder. */
export const PHOTO_ENDING = /\.(jpe?g|png|webp|tiff?|avif|hei[cf])$/i;

export async function probePhoto(path: string): Promise<Result<ProbedPhoto>> {
  const raw = rawFileSentence(path);
  if (raw !== null) return failure(raw);
  try {
    const file = await stat(path, { bigint: true });
    if (file.isDirectory()) return failure(photoSentence(path, { code: 'EISDIR' }));
    // A pipe or a device would be waited on for good.
    if (!file.isFile()) return failure(photoSentence(path, new Error('unsupported image format')));
    if (file.size === 0n) return failure(photoSentence(path, new Error('empty file')));
    const metadata = await sharp(path, { limitInputPixels: MAX_PHOTO_PIXELS }).metadata();
    const picture = pictureFacts(metadata);
    const { format, size } = picture;
    if (!format) return failure(photoSentence(path, new Error('unsupported image format')));
    if (size.width * size.height > MAX_PHOTO_PIXELS) {
      return failure(photoSentence(path, new Error('exceeds pixel limit')));
    }
    return success({
      ...picture,
      format,
      bytes: Number(file.size),
      modifiedMs: Number(file.mtimeMs),
      device: String(file.dev),
      inode: String(file.ino),
      metadata,
    });
  } catch (error) {
    return failure(photoSentence(path, error));
  }
}

/** @param metadata as the imaging library reads it */
export function pictureFacts(metadata: Metadata): PictureFacts {
  return {
    size: { ...metadata.autoOrient },
    orientation: metadata.orientation ?? 1,
    format: formatOf(metadata.format, metadata.compression),
    bitsPerChannel: metadata.depth === 'ushort' ? 16 : metadata.depth === 'uchar' ? 8 : 32,
    hasAlpha: metadata.hasAlpha ?? false,
    colours: coloursOf(metadata.space),
    icc: metadata.icc ?? null,
  };
}

function formatOf(format: string | undefined, compression: string | undefined): PhotoFormat | null {
  // HEIC and AVIF share a container; only the compression tells them apart.
  if (format === 'heif' || format === 'avif') return compression === 'hevc' ? 'heic' : 'avif';
  return PHOTO_FORMATS.find((known) => known === format) ?? null;
}

function coloursOf(space: string | undefined): PhotoColours {
  if (space === 'cmyk') return 'cmyk';
  return space === 'b-w' || space === 'grey16' ? 'grey' : 'rgb';
}

/** The camera's notes that the page shows and names use. Missing ones are null. */
export interface CameraFacts {
  /** Local time of the camera, `YYYY-MM-DDTHH:MM:SS`: EXIF has no time zone to go by. */
  readonly capturedAt: string | null;
  readonly camera: string | null;
  readonly lens: string | null;
}

/** All that a mark may say of a photo and the file itself knows. */
export async function photoFacts(
  path: string,
  { metadata, modifiedMs }: Pick<ProbedPhoto, 'metadata' | 'modifiedMs'>,
): Promise<Omit<PhotoFacts, 'name'> & { readonly isYearOfFile: boolean }> {
  const camera = await cameraFacts(path, metadata);
  const { year, from } = yearOf(camera.capturedAt, modifiedMs);
  const described = await describedBy(path, metadata);
  return { ...camera, ...described, year, isYearOfFile: from === 'file' };
}

const EXIF_TIME = /^(\d{4}):(\d{2}):(\d{2})[ T](\d{2}:\d{2}:\d{2})/;

/** @param path is only read where the file type keeps its notes outside of an EXIF block (TIFF) */
export async function cameraFacts(path: string, metadata: SourceMetadata): Promise<CameraFacts> {
  const nothing = { capturedAt: null, camera: null, lens: null };
  try {
    const wanted = ['DateTimeOriginal', 'CreateDate', 'Make', 'Model', 'LensModel'];
    const source = metadata.exif ? withoutPreamble(metadata.exif) : path;
    const found = await exifr.parse(source, { pick: wanted, reviveValues: false });
    if (!found) return nothing;
    return {
      capturedAt: isoTime(found.DateTimeOriginal) ?? isoTime(found.CreateDate),
      camera: cameraName(found.Make, found.Model),
      lens: textOrNull(found.LensModel),
    };
  } catch {
    // Camera notes are a courtesy; a photo with broken ones is still a photo.
    return nothing;
  }
}

/** The year a photo was taken in; where the camera noted none, that of its file. */
export function yearOf(
  capturedAt: string | null,
  modifiedMs: number,
): { readonly year: number; readonly from: 'camera' | 'file' } {
  const year = Number(capturedAt?.slice(0, 'YYYY'.length));
  if (Number.isInteger(year) && year > 0) return { year, from: 'camera' };
  return { year: new Date(modifiedMs).getFullYear(), from: 'file' };
}

function isoTime(value: unknown): string | null {
  const match = typeof value === 'string' ? EXIF_TIME.exec(value) : null;
  if (!match || match[1] === '0000') return null;
  return `${match[1]}-${match[2]}-${match[3]}T${match[4]}`;
}

function cameraName(make: unknown, model: unknown): string | null {
  const makeText = textOrNull(make);
  const modelText = textOrNull(model);
  if (!makeText || !modelText) return modelText ?? makeText;
  return modelText.startsWith(makeText) ? modelText : `${makeText} ${modelText}`;
}

function textOrNull(value: unknown): string | null {
  const text = typeof value === 'string' ? value.replace(/\0/g, '').trim() : '';
  return text || null;
}
