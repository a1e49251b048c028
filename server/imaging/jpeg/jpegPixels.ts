import { readFile } from 'node:fs/promises';
import type { Region } from 'sharp';
import { turnedSize } from '#core/placement/orientation';
import type { Size } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import type { PictureFacts } from '../photo/probe.ts';
import { sharpOf } from '../sharp.ts';
import { jpegLibrary, type RgbSamples, type Shrink } from './jpegLibrary.ts';
import { giveRoomBack } from './sampleRoom.ts';

/** How far clockwise the stored picture is to be turned, degrees; mirrored ones are rare, and not here. */
const TURNS: ReadonlyMap<number, 0 | 90 | 180 | 270> = new Map([
  [1, 0],
  [3, 180],
  [6, 90],
  [8, 270],
]);

export interface Sizing {
  /** Null: the photo's own. */
  readonly frame: Size | null;
  /** How many times larger it still is, at least, when the decoder itself has made it smaller. */
  readonly left?: 1 | 2;
  /** The frame is so many times smaller, what does not come out even cut off: the decoder makes it so. */
  readonly shrink?: Shrink;
}

/**
 * A JPEG upright and in a size, in its own numbers, by the JPEG library of the system.
 *
 * @returns the samples that the imaging library makes of it; null: it is for that one, which can tell
 *   what is wrong with a file
 */
export async function jpegPixels(
  path: string,
  { format, colours, bitsPerChannel, orientation, size }: PictureFacts,
  sizing: Sizing,
): Promise<Pixels | null> {
  const isPlain = format === 'jpeg' && colours === 'rgb' && bitsPerChannel === 8;
  const shrink = sizing.shrink ?? shrinkFor(size, sizing);
  // What is only then made smaller, the imaging library makes so strip by strip, in a third of the memory.
  const isByStrips = sizing.frame !== null && shrink === 1;
  const library = isPlain && TURNS.has(orientation) && !isByStrips ? jpegLibrary() : null;
  if (!library) return null;
  const jpeg = await readFile(path).catch(() => null);
  const stored = turnedSize(size, orientation);
  // Where there is no memory for all samples at once, there may be for strips.
  const samples = jpeg && (await library.decode(jpeg, stored, shrink).catch(() => null));
  // A last column or row made of less than its share of the picture is none.
  const part = {
    ...{ left: 0, top: 0 },
    width: Math.floor(stored.width / shrink),
    height: Math.floor(stored.height / shrink),
  };
  return samples && shaped(samples, part, orientation, sizing);
}

/** By the rule of the imaging library, so that it makes no difference which of them decodes. */
export function shrinkFor(size: Size, { frame, left = 1 }: Sizing): Shrink {
  if (!frame) return 1;
  const times = Math.min(size.width / frame.width, size.height / frame.height);
  const most = ([8, 4, 2] as const).find((shrink) => times >= shrink * left) ?? 1;
  // Next to the frame's own size, how the decoder rounds its size would show.
  return most > 1 && Math.floor(times) === most ? ((most / 2) as Shrink) : most;
}

/** In the size first, then turned: as the imaging library does it, and as there are fewer pixels to turn. */
async function shaped(
  { data, width, height }: RgbSamples,
  part: Region,
  orientation: number,
  { frame }: Sizing,
): Promise<Pixels> {
  const turn = TURNS.get(orientation) ?? 0;
  const as = frame && turnedSize(frame, orientation);
  const isSize = as === null || (as.width === width && as.height === height);
  if (isSize && turn === 0) return { data, width, height, channels: 3 };
  const all = sharpOf({ data, width, height, channels: 3 });
  const sized = as ? all.extract(part).resize(as.width, as.height, { fit: 'fill' }) : all;
  const made = await sized.rotate(turn).raw().toBuffer({ resolveWithObject: true });
  giveRoomBack(data);
  const { buffer, byteOffset, byteLength } = made.data;
  return {
    data: new Uint8ClampedArray(buffer, byteOffset, byteLength),
    ...{ width: made.info.width, height: made.info.height, channels: 3 },
  };
}
