import type { Canvas, Pixels } from '#core/pixels';
import { cellFrame } from '#core/verify/cells';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { sharp } from '../sharp.ts';

/** Cells of what is to be written, and of what was: both the same way, so that they are equal but for the codec. */

type Pipeline = ReturnType<typeof sharp>;

export function canvasCells({ data, width, height, channels, depth }: Canvas): Promise<Pixels> {
  const raw = sharp(data, { raw: { width, height, channels } });
  return cellsOf(depth === 16 ? raw.toColourspace('rgb16') : raw, { width, height });
}

/**
 * A file's, in its own numbers, turned upright.
 *
 * @throws where any part of it cannot be decoded
 */
export function fileCells(path: string, frame: { width: number; height: number }): Promise<Pixels> {
  const opened = sharp(path, {
    ...{ ignoreIcc: true, failOn: 'warning', limitInputPixels: MAX_PHOTO_PIXELS },
  });
  return cellsOf(opened.autoOrient(), frame);
}

async function cellsOf(
  pipeline: Pipeline,
  frame: { width: number; height: number },
): Promise<Pixels> {
  const { width, height } = cellFrame(frame);
  const { data, info } = await pipeline
    .resize(width, height, { fit: 'fill', kernel: 'linear' })
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 3) throw new Error(`invalid: expected 3 channels, found ${info.channels}`);
  const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: samples, width, height, channels: 3 };
}
