import { readFile } from 'node:fs/promises';
import type { SharpOptions } from 'sharp';
import type { Size } from '#core/placement/geometry';
import type { Canvas, ColourSpace, Depth, Pixels } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import { isHarmlessWarning, photoSentence } from '../imageErrors.ts';
import { jpegPixels } from '../jpeg/jpegPixels.ts';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { sharp } from '../sharp.ts';
import type { ProbedPhoto } from './probe.ts';
import { isSrgbProfile } from './srgbProfile.ts';

export interface DecodeWish {
  /** Output frame, or null for the photo's own size. */
  readonly frame: Size | null;
  /** Lay transparent parts on white, for outputs without alpha. */
  readonly flatten: boolean;
}

type Pipeline = ReturnType<typeof sharp>;

/** A photo as upright 8-bit sRGB pixels, decoded and resized in one go, to be looked at. */
export async function decodePhoto(
  path: string,
  probed: ProbedPhoto,
  wish: DecodeWish,
): Promise<Result<Pixels>> {
  const ignoreIcc = await isInSrgb(probed);
  const quick = ignoreIcc ? await jpegPixels(path, probed, { frame: wish.frame }) : null;
  if (quick) return success(quick);
  const read = (source: Pipeline) => pixelsOf(inSrgb(shaped(source, wish), probed));
  return opened(path, probed, read, { ignoreIcc });
}

/**
 * The same for an output. The decoder of JPEG shrinks less far of its own, so that a size comes out the
 * same, whether it is decoded or made of a larger one.
 */
export async function decodeCanvas(
  path: string,
  probed: ProbedPhoto,
  wish: DecodeWish & { readonly depth: Depth; readonly space: ColourSpace },
): Promise<Result<Canvas>> {
  const { depth, space } = wish;
  const ignoreIcc = space === 'photo' || (await isInSrgb(probed));
  const isQuick = ignoreIcc && depth === 8;
  const quick = isQuick ? await jpegPixels(path, probed, { frame: wish.frame, left: 2 }) : null;
  if (quick) return success({ ...quick, depth: 8, space });
  const read = async (source: Pipeline): Promise<Canvas> => {
    const sized = shaped(source, wish, { fastShrinkOnLoad: false });
    const pipeline = space === 'srgb' ? inSrgb(sized, probed) : sized;
    if (depth === 8) return { ...(await pixelsOf(pipeline)), depth, space };
    return { ...(await deepPixelsOf(pipeline)), depth, space };
  };
  return opened(path, probed, read, { ignoreIcc });
}

/** Whether its numbers are those of sRGB as they are: it has no profile, as cameras leave it, or that one. */
async function isInSrgb({ colours, bitsPerChannel, icc }: ProbedPhoto): Promise<boolean> {
  if (colours !== 'rgb' || bitsPerChannel !== 8) return false;
  return icc === null || isSrgbProfile(icc);
}

async function opened<T>(
  path: string,
  probed: ProbedPhoto,
  read: (source: Pipeline) => Promise<T>,
  options: SharpOptions = {},
): Promise<Result<T>> {
  try {
    if (probed.format === 'heic') {
      const { decodeHeic } = await import('./heic.ts');
      const source = await decodeHeic(await readFile(path), probed.icc);
      return success(await read(source(options)));
    }
    try {
      return success(await read(upright(path, { ...options, failOn: 'warning' })));
    } catch (error) {
      if (!isHarmlessWarning(error)) throw error;
      return success(await read(upright(path, { ...options, failOn: 'truncated' })));
    }
  } catch (error) {
    return failure(photoSentence(path, error));
  }
}

function upright(path: string, options: SharpOptions): Pipeline {
  return sharp(path, { limitInputPixels: MAX_PHOTO_PIXELS, ...options }).autoOrient();
}

function shaped(source: Pipeline, { frame, flatten }: DecodeWish, options: object = {}): Pipeline {
  const sized = frame
    ? source.resize(frame.width, frame.height, { fit: 'fill', ...options })
    : source;
  return flatten ? sized.flatten({ background: '#ffffff' }) : sized;
}

/** Photos of 16 bits with a profile are left in a wider space by the library, unless it is told. */
function inSrgb(pipeline: Pipeline, { bitsPerChannel, icc }: ProbedPhoto): Pipeline {
  const isLeftWide = bitsPerChannel > 8 && icc !== null;
  return isLeftWide ? pipeline.withIccProfile('srgb', { attach: false }) : pipeline;
}

async function pixelsOf(pipeline: Pipeline): Promise<Pixels> {
  const { data, info } = await pipeline
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: samples, ...shapeOf(info) };
}

async function deepPixelsOf(pipeline: Pipeline) {
  const { data, info } = await pipeline
    .pipelineColourspace('rgb16')
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const samples = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2);
  return { data: samples, ...shapeOf(info) };
}

function shapeOf({ width, height, channels }: { width: number; height: number; channels: number }) {
  if (channels !== 3 && channels !== 4) {
    throw new Error(`invalid: expected 3 or 4 channels, found ${channels}`);
  }
  return { width, height, channels } as const;
}
