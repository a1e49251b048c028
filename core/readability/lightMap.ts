import type { Pixels } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';
import { lightness } from './lightness.ts';

/**
 * The light map of a photo: mean and spread of L* in a coarse grid, small enough to be kept with
 * each photo and to be searched for a whole batch while a hand drags the mark.
 */
export interface LightMap {
  readonly width: number;
  readonly height: number;
  /** Two bytes a cell, row by row: mean L* and standard deviation of L*, both × 2.55. */
  readonly cells: Uint8Array;
}

/** Cells along the longer side: with a working size of 1,200 px, a cell is about 19 px. */
export const LIGHT_MAP_LONG_SIDE = 64;

/** Of mean and deviation. */
export const BYTES_A_CELL = 2;

/** L* runs to 100; a byte to 255. */
export const BYTES_PER_LIGHTNESS = 2.55;

/** Mean L* of a whole photo, from its map. */
export function meanLightness({ cells }: LightMap): number {
  let sum = 0;
  for (let at = 0; at < cells.length; at += 2) sum += cells[at];
  return sum / (cells.length / 2) / BYTES_PER_LIGHTNESS;
}

/** A part of a photo: where it lies in it, and the size of all of it, px. */
export interface PhotoPart {
  readonly left: number;
  readonly top: number;
  readonly size: Size;
}

/**
 * @param photo upright, at the working size of the readability measure
 * @param part where that is a part: cells beside it are 0, those at its edge of what is there of them
 */
export function lightMap(
  photo: Pixels,
  { left, top, size }: PhotoPart = { left: 0, top: 0, size: photo },
): LightMap {
  const longer = Math.max(size.width, size.height);
  const scale = Math.min(1, LIGHT_MAP_LONG_SIDE / longer);
  const width = Math.max(1, Math.round(size.width * scale));
  const height = Math.max(1, Math.round(size.height * scale));
  const counts = new Uint32Array(width * height);
  const sums = new Float64Array(width * height);
  const squares = new Float64Array(width * height);
  for (let y = 0; y < photo.height; y++) {
    const row = Math.floor(((top + y) * height) / size.height) * width;
    let at = y * photo.width * photo.channels;
    for (let x = 0; x < photo.width; x++, at += photo.channels) {
      const cell = row + Math.floor(((left + x) * width) / size.width);
      const l = lightness(photo.data[at], photo.data[at + 1], photo.data[at + 2]);
      counts[cell]++;
      sums[cell] += l;
      squares[cell] += l * l;
    }
  }
  const cells = new Uint8Array(width * height * 2);
  for (let cell = 0; cell < counts.length; cell++) {
    if (counts[cell] === 0) continue;
    const mean = sums[cell] / counts[cell];
    const variance = Math.max(0, squares[cell] / counts[cell] - mean * mean);
    cells[cell * 2] = Math.round(mean * BYTES_PER_LIGHTNESS);
    cells[cell * 2 + 1] = Math.min(255, Math.round(Math.sqrt(variance) * BYTES_PER_LIGHTNESS));
  }
  return { width, height, cells };
}

/** Bytes before the cells of each packed map: its id, width and height. */
const HEAD_BYTES = 8;

/**
 * Light maps of many photos in one piece: for each its id (32 bits), width and height (16 bits
 * each), little-endian, then its cells.
 */
export function packedLightMaps(
  maps: readonly { readonly id: number; readonly map: LightMap }[],
): Uint8Array {
  const bytes = maps.reduce((sum, { map }) => sum + HEAD_BYTES + map.cells.length, 0);
  const packed = new Uint8Array(bytes);
  const view = new DataView(packed.buffer);
  let at = 0;
  for (const { id, map } of maps) {
    view.setUint32(at, id, true);
    view.setUint16(at + 4, map.width, true);
    view.setUint16(at + 6, map.height, true);
    packed.set(map.cells, at + HEAD_BYTES);
    at += HEAD_BYTES + map.cells.length;
  }
  return packed;
}

/** The maps by id; their cells are views of the one piece. */
export function unpackedLightMaps(packed: Uint8Array): Map<number, LightMap> {
  const view = new DataView(packed.buffer, packed.byteOffset, packed.byteLength);
  const maps = new Map<number, LightMap>();
  let at = 0;
  while (at < packed.length) {
    const width = view.getUint16(at + 4, true);
    const height = view.getUint16(at + 6, true);
    const end = at + HEAD_BYTES + width * height * 2;
    maps.set(view.getUint32(at, true), {
      width,
      height,
      cells: packed.subarray(at + HEAD_BYTES, end),
    });
    at = end;
  }
  return maps;
}
