import { LINEAR_OF_BYTE } from '../colour/linearLight.ts';
import { OPAQUE, type Pixels } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';

/** A small picture in linear light: red, green, blue, 0 to 1, row by row. */
export interface LinearImage extends Size {
  readonly data: Float32Array;
}

/** Samples a pixel of a linear picture has. */
export const LINEAR_CHANNELS = 3;

/** From this side of a block, px, every other row says enough. */
const LARGE_BLOCK = 6;

/**
 * The picture made smaller by averaging light over blocks of pixels. Of large blocks every other row
 * is read: enough for paper, and half the time. A picture that is small already keeps its size.
 * Transparent parts count as white paper.
 *
 * @param longSidePx the result's longer side is at most about this
 */
export function reducedLinear(pixels: Pixels, longSidePx: number): LinearImage {
  const { width, height } = pixels;
  const block = Math.max(1, Math.ceil(Math.max(width, height) / longSidePx));
  const size = { width: Math.ceil(width / block), height: Math.ceil(height / block) };
  const data = new Float32Array(size.width * size.height * LINEAR_CHANNELS);
  for (let y = 0; y < size.height; y++) {
    const top = y * block;
    const bottom = Math.min(height, top + block);
    const row = y * size.width * LINEAR_CHANNELS;
    const step = block >= LARGE_BLOCK ? 2 : 1;
    const rows = Math.ceil((bottom - top) / step);
    for (let sourceY = top; sourceY < bottom; sourceY += step) {
      addRow(pixels, sourceY, block, data, row);
    }
    for (let x = 0; x < size.width; x++) {
      const across = Math.min(width, (x + 1) * block) - x * block;
      const share = 1 / (across * rows);
      for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
        data[row + x * LINEAR_CHANNELS + channel] *= share;
      }
    }
  }
  return { data, ...size };
}

function addRow(pixels: Pixels, y: number, block: number, sums: Float32Array, row: number): void {
  const { data, width, channels } = pixels;
  const linear = LINEAR_OF_BYTE;
  let at = y * width * channels;
  for (let x = 0, to = row; x < width; to += LINEAR_CHANNELS) {
    const end = Math.min(width, x + block);
    let red = 0;
    let green = 0;
    let blue = 0;
    for (; x < end; x++, at += channels) {
      if (channels === 4 && data[at + 3] < OPAQUE) {
        const alpha = data[at + 3] / OPAQUE;
        red += linear[data[at]] * alpha + 1 - alpha;
        green += linear[data[at + 1]] * alpha + 1 - alpha;
        blue += linear[data[at + 2]] * alpha + 1 - alpha;
        continue;
      }
      red += linear[data[at]];
      green += linear[data[at + 1]];
      blue += linear[data[at + 2]];
    }
    sums[to] += red;
    sums[to + 1] += green;
    sums[to + 2] += blue;
  }
}

/** Luminance of each pixel, 0 to 1. */
export function luminanceOf(
  { data, width, height }: LinearImage,
  weights: readonly [number, number, number],
): Float32Array {
  const out = new Float32Array(width * height);
  for (let index = 0, at = 0; index < out.length; index++, at += LINEAR_CHANNELS) {
    out[index] = data[at] * weights[0] + data[at + 1] * weights[1] + data[at + 2] * weights[2];
  }
  return out;
}
