import type { Blend } from '../contract/preset.ts';
import { OPAQUE, type Canvas, type Pixels, type Raster, type Samples } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';
import { blendDeep } from './blendDeep.ts';
import { blendTable, lum, luminosity, type SeparableBlend } from './blendModes.ts';

/**
 * Blends a mark into a photo in place, touching only the pixels the mark covers; parts outside of
 * the photo are cut off. Simple alpha compositing with blending as in W3C Compositing and Blending
 * Level 1, sections 5 and 10, on encoded values.
 *
 * @param left, top whole pixels, may be negative
 * @param opacity 0 to 1, multiplies the mark's alpha
 */
export function blendMark(
  photo: Pixels | Canvas,
  mark: Raster,
  left: number,
  top: number,
  opacity: number,
  blend: Blend,
): void {
  if (opacity <= 0) return;
  const region = overlap(photo, mark, left, top);
  if (!region) return;
  if (isDeep(photo)) blendDeep(photo, mark, region, opacity, blend);
  else blendFlat(photo, mark, region, opacity, blend);
}

function isDeep(photo: Pixels | Canvas): photo is Samples<Uint16Array> & Canvas {
  return photo.data instanceof Uint16Array;
}

/** On a photo of 8 bits a sample: a loop for each of the common cases, since there are many pixels. */
function blendFlat(
  photo: Pixels,
  mark: Raster,
  region: Region,
  opacity: number,
  blend: Blend,
): void {
  if (photo.channels === 4) blendOnAlpha(photo, mark, region, opacity, blend);
  else if (blend === 'normal') blendNormal(photo, mark, region, opacity);
  else if (blend === 'luminosity') blendLuminosity(photo, mark, region, opacity);
  else blendSeparable(photo, mark, region, opacity, blend);
}

/** The covered rectangle, in pixels of the photo, with the mark's pixel that lies on its corner. */
export interface Region {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly left: number;
  readonly top: number;
}

function overlap(photo: Size, mark: Raster, left: number, top: number): Region | null {
  const x0 = Math.max(0, left);
  const y0 = Math.max(0, top);
  const x1 = Math.min(photo.width, left + mark.width);
  const y1 = Math.min(photo.height, top + mark.height);
  return x0 < x1 && y0 < y1 ? { x0, y0, x1, y1, left, top } : null;
}

function blendNormal(photo: Pixels, mark: Raster, region: Region, opacity: number): void {
  for (let y = region.y0; y < region.y1; y++) blendRow(photo, mark, region, opacity, y);
}

/** By a call for each row: the first marks of a process are made fast sooner. */
function blendRow(
  { data, width }: Pixels,
  mark: Raster,
  { x0, x1, left, top }: Region,
  opacity: number,
  y: number,
): void {
  const strength = opacity / OPAQUE;
  const ink = mark.data;
  let m = ((y - top) * mark.width + x0 - left) * 4;
  let p = (y * width + x0) * 3;
  for (let x = x0; x < x1; x++, m += 4, p += 3) {
    const coverage = ink[m + 3];
    if (coverage === 0) continue;
    const alpha = coverage * strength;
    const rest = 1 - alpha;
    data[p] = data[p] * rest + ink[m] * alpha;
    data[p + 1] = data[p + 1] * rest + ink[m + 1] * alpha;
    data[p + 2] = data[p + 2] * rest + ink[m + 2] * alpha;
  }
}

function blendSeparable(
  photo: Pixels,
  mark: Raster,
  region: Region,
  opacity: number,
  blend: SeparableBlend,
): void {
  const table = blendTable(blend);
  const strength = opacity / OPAQUE;
  for (let y = region.y0; y < region.y1; y++) {
    let m = ((y - region.top) * mark.width + region.x0 - region.left) * 4;
    let p = (y * photo.width + region.x0) * 3;
    for (let x = region.x0; x < region.x1; x++, m += 4, p += 3) {
      const coverage = mark.data[m + 3];
      if (coverage === 0) continue;
      const alpha = coverage * strength;
      const rest = 1 - alpha;
      for (let c = 0; c < 3; c++) {
        const backdrop = photo.data[p + c];
        photo.data[p + c] = backdrop * rest + table[(backdrop << 8) + mark.data[m + c]] * alpha;
      }
    }
  }
}

function blendLuminosity(photo: Pixels, mark: Raster, region: Region, opacity: number): void {
  const strength = opacity / OPAQUE;
  const mixed: [number, number, number] = [0, 0, 0];
  const backdrop: [number, number, number] = [0, 0, 0];
  for (let y = region.y0; y < region.y1; y++) {
    let m = ((y - region.top) * mark.width + region.x0 - region.left) * 4;
    let p = (y * photo.width + region.x0) * 3;
    for (let x = region.x0; x < region.x1; x++, m += 4, p += 3) {
      const coverage = mark.data[m + 3];
      if (coverage === 0) continue;
      const alpha = coverage * strength;
      for (let c = 0; c < 3; c++) backdrop[c] = photo.data[p + c];
      luminosity(backdrop, lum(mark.data[m], mark.data[m + 1], mark.data[m + 2]), mixed);
      for (let c = 0; c < 3; c++) {
        photo.data[p + c] = backdrop[c] * (1 - alpha) + mixed[c] * alpha;
      }
    }
  }
}

/** A photo with transparency of its own: rare, so one general loop for all modes. */
function blendOnAlpha(
  photo: Pixels,
  mark: Raster,
  region: Region,
  opacity: number,
  blend: Blend,
): void {
  const table = blend === 'luminosity' ? null : blendTable(blend);
  const mixed: [number, number, number] = [0, 0, 0];
  for (let y = region.y0; y < region.y1; y++) {
    for (let x = region.x0; x < region.x1; x++) {
      const m = ((y - region.top) * mark.width + x - region.left) * 4;
      const p = (y * photo.width + x) * 4;
      const source = (mark.data[m + 3] / OPAQUE) * opacity;
      if (source === 0) continue;
      const under = photo.data[p + 3] / OPAQUE;
      const out = source + under * (1 - source);
      if (table) {
        for (let c = 0; c < 3; c++) mixed[c] = table[(photo.data[p + c] << 8) + mark.data[m + c]];
      } else {
        luminosity(
          [photo.data[p], photo.data[p + 1], photo.data[p + 2]],
          lum(mark.data[m], mark.data[m + 1], mark.data[m + 2]),
          mixed,
        );
      }
      for (let c = 0; c < 3; c++) {
        const colour = (1 - under) * mark.data[m + c] + under * mixed[c];
        const backdrop = photo.data[p + c];
        photo.data[p + c] = (source * colour + (1 - source) * under * backdrop) / out;
      }
      photo.data[p + 3] = out * OPAQUE;
    }
  }
}
