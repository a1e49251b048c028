import { readFile } from 'node:fs/promises';
import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { canvasCells, coarseGrid, comparedCells } from '#core/verify/coarseCells';
import { blockMeans } from '../jpeg/entropy/blockMeans.ts';
import { jpegPixels } from '../jpeg/jpegPixels.ts';
import { giveRoomBack } from '../jpeg/sampleRoom.ts';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { UPRIGHT } from '../metadata/exifBlock.ts';
import type { PictureFacts } from '../photo/probe.ts';
import { sharp } from '../sharp.ts';

const READ_AS_IT_IS = Object.freeze({
  ignoreIcc: true,
  failOn: 'warning',
  limitInputPixels: MAX_PHOTO_PIXELS,
} as const);

/** Px of a side of a block of JPEG. */
const BLOCK = 8;
/** Of fewer, a decoder is done before the tables are made that codes are read by: small files have their own. */
const MANY_PIXELS = 1_500_000;

/**
 * Cells of a file in its own numbers, turned upright, to be compared with those of a canvas.
 *
 * @param picture how the file says that it is stored
 * @param parts what was written into it, one after the other, where that is known
 * @throws where any part of it cannot be decoded, or is not what was written
 */
export async function fileCells(
  path: string,
  picture: PictureFacts,
  parts?: readonly Uint8Array[],
): Promise<Pixels> {
  const { px } = coarseGrid(picture.size);
  const quick = px === BLOCK ? await blockCells(path, picture, parts) : null;
  if (quick) return quick;
  // Not made smaller by the library: its filters take in what lies beside a cell, too.
  const { data, info } = await sharp(path, READ_AS_IT_IS)
    .autoOrient()
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 3) throw new Error(`invalid: expected 3 channels, found ${info.channels}`);
  const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  const { width, height } = info;
  return canvasCells({
    ...{ data: samples, width, height, channels: 3 },
    depth: 8,
    space: 'photo',
  });
}

/** Nothing is left beside the cells. */
function isEven(frame: Size): boolean {
  const { px, cells } = coarseGrid(frame);
  return frame.width === cells.width * px && frame.height === cells.height * px;
}

/** Those of a JPEG that are blocks of it: only their means are made. @returns null: it is for a decoder of all */
async function blockCells(
  path: string,
  picture: PictureFacts,
  parts: readonly Uint8Array[] | undefined,
): Promise<Pixels | null> {
  const { size: frame, format, orientation } = picture;
  const { px, cells, step, compared } = coarseGrid(frame);
  if (format !== 'jpeg') return null;
  if (orientation === UPRIGHT && frame.width * frame.height >= MANY_PIXELS) {
    const jpeg = await readFile(path);
    const isAsEncoded = parts !== undefined;
    if (isAsEncoded && !isMadeOf(jpeg, parts)) throw new Error('corrupt: not what was written');
    const means = blockMeans(jpeg, { step, wanted: compared, isAsEncoded });
    if (means) return means;
  }
  // What is cut off lies at the right and the bottom, which is elsewhere in what is stored turned.
  if (!isEven(frame) && orientation !== UPRIGHT) return null;
  const pixels = await jpegPixels(path, picture, { frame: cells, shrink: px });
  if (!pixels) return null;
  const means = comparedCells(pixels, frame);
  giveRoomBack(pixels.data);
  return means;
}

function isMadeOf(bytes: Buffer, parts: readonly Uint8Array[]): boolean {
  let from = 0;
  for (const part of parts) {
    const end = from + part.length;
    if (!bytes.subarray(from, end).equals(part)) return false;
    from = end;
  }
  return from === bytes.length;
}
