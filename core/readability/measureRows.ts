import { FULL, type Coverage } from '../ink/plane.ts';
import type { Pixels } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';
import type { InkParts } from './inkParts.ts';
import { lightness } from './lightness.ts';
import type { PartTally } from './partTally.ts';

/**
 * What readability looks at, row by row. Each row is a call: the first marks of a process are measured while its
 * functions are still being made fast, which takes tens of marks where one call goes through all rows.
 */

/** Coverage from which a pixel is ink, and below which it may be ground. */
const INK_COVERAGE = 0.5;
const GROUND_COVERAGE = 0.1;

/** Ink reads that differs from its ground by this much, L*, and this many standard deviations. */
export const LEAST_DIFFERENCE = 12;
export const LEAST_DEVIATIONS = 1.5;

/** Sums that the table holds side by side, as they are read: of ones, of L*, of squares of L*. */
export const SUMS = 3;

/** Room that is used again for every copy: a batch is measured without making a heap of arrays. */
let room = newRoom(0, 0);
type Room = ReturnType<typeof newRoom>;

function newRoom(pixels: number, entries: number) {
  return {
    pixels,
    entries,
    light: new Float32Array(pixels),
    isInk: new Uint8Array(pixels),
    differences: new Float64Array(pixels),
    table: new Float64Array(entries * SUMS),
  };
}

export function roomFor(pixels: number, stride: number): Room {
  const entries = pixels + pixels / (stride - 1) + stride;
  if (room.pixels < pixels || room.entries < entries) {
    room = newRoom(Math.max(pixels, room.pixels), Math.max(entries, room.entries));
  }
  return room;
}

/** What is looked at for a copy, and where its coverage lies in the photo. */
export interface Area extends Size {
  readonly photo: Pixels;
  readonly x0: number;
  readonly y0: number;
  readonly reach: number;
  readonly core: Coverage;
  readonly left: number;
  readonly top: number;
}

/** L* and ink of a row, and its sums. */
export function sumRow(area: Area, y: number, { light, isInk, table }: Room): void {
  const { photo, x0, y0, width, core, left, top } = area;
  const { data, channels } = photo;
  const inkByte = INK_COVERAGE * FULL;
  const groundByte = GROUND_COVERAGE * FULL;
  const row = (width + 1) * SUMS;
  let count = 0;
  let sum = 0;
  let square = 0;
  let at = ((y0 + y) * photo.width + x0) * channels;
  const coreY = y0 + y - top;
  const coreRow = coreY >= 0 && coreY < core.height ? coreY * core.width : -1;
  let below = (y + 1) * row;
  table[below] = table[below + 1] = table[below + 2] = 0;
  for (let x = 0; x < width; x++, at += channels) {
    const coreX = x0 + x - left;
    const isOnCore = coreRow >= 0 && coreX >= 0 && coreX < core.width;
    const coverage = isOnCore ? core.data[coreRow + coreX] : 0;
    const l = lightness(data[at], data[at + 1], data[at + 2]);
    const here = y * width + x;
    light[here] = l;
    isInk[here] = coverage >= inkByte ? 1 : 0;
    if (coverage < groundByte) {
      count++;
      sum += l;
      square += l * l;
    }
    below += SUMS;
    const above = below - row;
    table[below] = table[above] + count;
    table[below + 1] = table[above + 1] + sum;
    table[below + 2] = table[above + 2] + square;
  }
}

/** What was found in the rows so far. */
interface Found {
  ink: number;
  reads: number;
  bustle: number;
}

/** Ink of a row against the ground round each of its pixels. */
export function readRow(
  area: Area,
  y: number,
  { light, isInk, table, differences }: Room,
  found: Found,
  tally: PartTally | null,
  parts: InkParts | null,
): void {
  const { x0, y0, width, height, reach, core, left, top } = area;
  const row = (width + 1) * SUMS;
  const upper = Math.max(0, y - reach) * row;
  const lower = Math.min(height, y + reach + 1) * row;
  let { ink, reads, bustle } = found;
  for (let x = 0; x < width; x++) {
    if (isInk[y * width + x] === 0) continue;
    const from = Math.max(0, x - reach) * SUMS;
    const to = Math.min(width, x + reach + 1) * SUMS;
    const a = lower + to;
    const b = lower + from;
    const c = upper + to;
    const d = upper + from;
    const count = table[a] - table[b] - table[c] + table[d];
    if (count < 1) continue;
    const mean = (table[a + 1] - table[b + 1] - table[c + 1] + table[d + 1]) / count;
    const square = (table[a + 2] - table[b + 2] - table[c + 2] + table[d + 2]) / count;
    const deviation = Math.sqrt(Math.max(0, square - mean * mean));
    const difference = Math.abs(light[y * width + x] - mean);
    differences[ink++] = difference;
    bustle += deviation;
    const isRead = difference >= LEAST_DIFFERENCE && difference >= LEAST_DEVIATIONS * deviation;
    if (isRead) reads++;
    if (tally && parts) {
      const part = parts.labels[(y0 + y - top) * core.width + x0 + x - left];
      tally.add(part, isRead, x0 + x, y0 + y);
    }
  }
  found.ink = ink;
  found.reads = reads;
  found.bustle = bustle;
}
