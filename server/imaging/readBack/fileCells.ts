import type { Pixels } from '#core/pixels';
import { canvasCells, coarseGrid, comparedCells } from '#core/verify/coarseCells';
import { jpegPixels } from '../jpeg/jpegPixels.ts';
import { giveRoomBack } from '../jpeg/sampleRoom.ts';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import type { PictureFacts } from '../photo/probe.ts';
import { sharp } from '../sharp.ts';

const READ_AS_IT_IS = Object.freeze({
  ignoreIcc: true,
  failOn: 'warning',
  limitInputPixels: MAX_PHOTO_PIXELS,
} as const);

/**
 * Cells of a file in its own numbers, turned upright, to be compared with those of a canvas.
 *
 * @param picture how the file says that it is stored
 * @param isLossless the file holds the numbers themselves: then they are compared, not what a decoder
 *   makes of them that shrinks, which is faster
 * @throws where any part of it cannot be decoded
 */
export async function fileCells(
  path: string,
  picture: PictureFacts,
  isLossless = false,
): Promise<Pixels> {
  const { size: frame } = picture;
  const { cells } = coarseGrid(frame);
  const sizing = { frame: cells, kernel: 'linear', byBlocks: true } as const;
  const quick = await jpegPixels(path, picture, sizing);
  if (quick) {
    const compared = comparedCells(quick, frame);
    giveRoomBack(quick.data);
    return compared;
  }
  const upright = sharp(path, READ_AS_IT_IS).autoOrient();
  const { width: across, height: down } = cells;
  const sized = isLossless
    ? upright
    : upright.resize(across, down, { fit: 'fill', kernel: sizing.kernel });
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
