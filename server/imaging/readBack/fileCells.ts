import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { canvasCells, coarseGrid, comparedCells } from '#core/verify/coarseCells';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { sharp } from '../sharp.ts';

/**
 * Cells of a file in its own numbers, turned upright, to be compared with those of a canvas.
 *
 * @param isLossless the file holds the numbers themselves: then they are compared, not what a decoder
 *   makes of them that shrinks, which is faster
 * @throws where any part of it cannot be decoded
 */
export async function fileCells(path: string, frame: Size, isLossless = false): Promise<Pixels> {
  const options = {
    ignoreIcc: true,
    failOn: 'warning',
    limitInputPixels: MAX_PHOTO_PIXELS,
  } as const;
  const { cells } = coarseGrid(frame);
  const upright = sharp(path, options).autoOrient();
  const sized = isLossless
    ? upright
    : upright.resize(cells.width, cells.height, { fit: 'fill', kernel: 'linear' });
  const { data, info } = await sized
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 3) throw new Error(`invalid: expected 3 channels, found ${info.channels}`);
  const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  if (isLossless) {
    const { width, height } = info;
    return canvasCells({ data: samples, width, height, channels: 3, depth: 8, space: 'photo' });
  }
  return comparedCells({ data: samples, ...cells, channels: 3 }, frame);
}
