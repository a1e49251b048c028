import type { Canvas, Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import { WORKING_LONG_SIDE_PX } from '#core/readability/measure';
import { success, type Result } from '#core/result';
import { decodePhoto } from './photo/decode.ts';
import type { ProbedPhoto } from './photo/probe.ts';
import { sharp } from './sharp.ts';

/** A photo at the size at which readability is measured, or the part of it that is looked at. */
export interface WorkingPhoto {
  readonly pixels: Pixels;
  /** Of the whole photo. */
  readonly size: Size;
  /** Of the pixels in the photo. */
  readonly left: number;
  readonly top: number;
}

/** The size at which readability is measured: that of the output, where it is smaller. */
export function workingSize(frame: Size): Size & { readonly factor: number } {
  const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(frame.width, frame.height));
  return {
    factor,
    width: Math.max(1, Math.round(frame.width * factor)),
    height: Math.max(1, Math.round(frame.height * factor)),
  };
}

/** From the photo itself. */
export async function workingPhoto(
  path: string,
  probed: ProbedPhoto,
  frame: Size,
): Promise<Result<WorkingPhoto>> {
  const { width, height } = workingSize(frame);
  const wish = { frame: { width, height }, flatten: probed.hasAlpha };
  const decoded = await decodePhoto(path, probed, wish);
  return decoded.ok ? success(whole(decoded.value)) : decoded;
}

/** From the pixels of an output that are there already; transparent parts on white. */
export async function workingCopy(photo: Canvas): Promise<WorkingPhoto> {
  const { width, height, factor } = workingSize(photo);
  if (factor === 1 && photo.channels === 3 && photo.depth === 8) return whole(photo);
  const { data, channels } = photo;
  const raw = { width: photo.width, height: photo.height, channels };
  const opaque = channels === 4 ? sharp(data, { raw }).flatten(WHITE) : sharp(data, { raw });
  return whole(await pixelsOf(opaque.resize(width, height, { fit: 'fill' }).toColourspace('srgb')));
}

/**
 * From the proxy that was made of the photo, which has the working size of all large outputs.
 *
 * @param seen the part that is looked at, whole px of the working size; the rest is left out where
 *   that saves work
 */
export async function workingProxy(
  path: string,
  size: Size,
  frame: Size,
  seen: Box | null,
): Promise<WorkingPhoto> {
  const { width, height } = workingSize(frame);
  const isThatSize = size.width === width && size.height === height;
  if (isThatSize && seen) {
    const { x: left, y: top } = seen;
    const part = sharp(path).extract({ left, top, width: seen.width, height: seen.height });
    return { pixels: await pixelsOf(part), size, left, top };
  }
  const sized = isThatSize ? sharp(path) : sharp(path).resize(width, height, { fit: 'fill' });
  return whole(await pixelsOf(sized));
}

const WHITE = { background: '#ffffff' };

async function pixelsOf(pipeline: ReturnType<typeof sharp>): Promise<Pixels> {
  const { data, info } = await pipeline.raw().toBuffer({ resolveWithObject: true });
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: pixels, width: info.width, height: info.height, channels: 3 };
}

function whole(pixels: Pixels): WorkingPhoto {
  return { pixels, size: { width: pixels.width, height: pixels.height }, left: 0, top: 0 };
}

/** A copy of part of a photo; the box is whole pixels within it. */
export function cutOut({ data, width, channels }: Pixels, box: Box): Pixels {
  const row = box.width * channels;
  const part = new Uint8ClampedArray(row * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = ((box.y + y) * width + box.x) * channels;
    part.set(data.subarray(from, from + row), y * row);
  }
  return { data: part, width: box.width, height: box.height, channels };
}
