import { readFile } from 'node:fs/promises';
import type { Size } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import { isHarmlessWarning, photoSentence } from '../imageErrors.ts';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { sharp } from '../sharp.ts';
import type { ProbedPhoto } from './probe.ts';

export interface DecodeWish {
  /** Output frame, or null for the photo's own size. */
  readonly frame: Size | null;
  /** Lay transparent parts on white, for outputs without alpha. */
  readonly flatten: boolean;
}

type Pipeline = ReturnType<typeof sharp>;

/** A photo as upright 8-bit sRGB pixels, decoded and resized in one go. */
export async function decodePhoto(
  path: string,
  probed: ProbedPhoto,
  wish: DecodeWish,
): Promise<Result<Pixels>> {
  try {
    if (probed.format === 'heic') {
      const { decodeHeic } = await import('./heic.ts');
      const source = await decodeHeic(await readFile(path), probed.icc);
      return success(await pixelsOf(source(), wish));
    }
    try {
      return success(await pixelsOf(opened(path, 'warning'), wish));
    } catch (error) {
      if (!isHarmlessWarning(error)) throw error;
      return success(await pixelsOf(opened(path, 'truncated'), wish));
    }
  } catch (error) {
    return failure(photoSentence(path, error));
  }
}

function opened(path: string, failOn: 'warning' | 'truncated'): Pipeline {
  return sharp(path, { limitInputPixels: MAX_PHOTO_PIXELS, failOn }).autoOrient();
}

async function pixelsOf(source: Pipeline, wish: DecodeWish): Promise<Pixels> {
  let pipeline = source;
  if (wish.frame) pipeline = pipeline.resize(wish.frame.width, wish.frame.height, { fit: 'fill' });
  if (wish.flatten) pipeline = pipeline.flatten({ background: '#ffffff' });
  const { data, info } = await pipeline
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 3 && info.channels !== 4) {
    throw new Error(`invalid: expected 3 or 4 channels, found ${info.channels}`);
  }
  return {
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength),
    width: info.width,
    height: info.height,
    channels: info.channels,
  };
}
