import { OPAQUE, type Raster } from '../pixels.ts';

/** How strongly full crispness adds what a light blur took away. */
const FULL_STRENGTH = 1.4;
/** Weights of a pixel and of its neighbours on each side, in a blur of about 0.7 px. */
const CENTRE = 0.5;
const BESIDE = 0.25;

/**
 * A light unsharp mask, for a mark that was scaled for a photo. Colours are weighed by alpha, so
 * nothing bleeds in from transparent pixels. The input is not changed.
 *
 * @param amount 0 to 1
 */
export function crisp(raster: Raster, amount: number): Raster {
  const { data, width, height } = raster;
  const premultiplied = new Float32Array(data.length);
  for (let at = 0; at < data.length; at += 4) {
    const alpha = data[at + 3] / OPAQUE;
    for (let channel = 0; channel < 3; channel++) {
      premultiplied[at + channel] = data[at + channel] * alpha;
    }
    premultiplied[at + 3] = data[at + 3];
  }
  const across = smoothed(premultiplied, width, height, 4, width * 4);
  const blurred = smoothed(across, height, width, width * 4, 4);
  const strength = amount * FULL_STRENGTH;
  const sharp = new Uint8ClampedArray(data.length);
  for (let at = 0; at < data.length; at += 4) {
    const alpha = sharpened(premultiplied[at + 3], blurred[at + 3], strength);
    // Out of range it is cut off; the colour is that of the uncut value.
    sharp[at + 3] = alpha;
    if (alpha <= 0) continue;
    for (let channel = 0; channel < 3; channel++) {
      const value = sharpened(premultiplied[at + channel], blurred[at + channel], strength);
      sharp[at + channel] = (value / alpha) * OPAQUE;
    }
  }
  return { ...raster, data: sharp };
}

function sharpened(value: number, blurred: number, strength: number): number {
  return value + (value - blurred) * strength;
}

/** One pass along lines of `count` pixels that are `step` apart; lines are `stride` apart. */
function smoothed(
  from: Float32Array,
  count: number,
  lines: number,
  step: number,
  stride: number,
): Float32Array {
  const to = new Float32Array(from.length);
  for (let line = 0; line < lines; line++) {
    for (let index = 0; index < count; index++) {
      const at = line * stride + index * step;
      const before = index > 0 ? at - step : at;
      const after = index < count - 1 ? at + step : at;
      for (let channel = 0; channel < 4; channel++) {
        to[at + channel] =
          from[at + channel] * CENTRE + (from[before + channel] + from[after + channel]) * BESIDE;
      }
    }
  }
  return to;
}
