import type { ToneChoice } from '../contract/preset.ts';
import { rgbOf, type Rgb } from '../colour/hex.ts';
import type { Raster } from '../pixels.ts';
import { pixelNumbers } from '../pixelNumbers.ts';

/** A recolouring of a mark. Tones come from alpha alone, so one raster serves them all. */

const LIGHT: Rgb = [255, 255, 255];
const DARK: Rgb = [0, 0, 0];

/** The one colour of a tone, 0 to 255 a channel, or null where every colour stays as it is. */
export function toneColour(tone: ToneChoice): Rgb | null {
  if (tone === 'original') return null;
  if (tone === 'light') return LIGHT;
  if (tone === 'dark') return DARK;
  return rgbOf(tone);
}

/** Of a pixel as a number. */
const ALPHA = 0xff << 24;

/** The raster in a tone: every colour becomes the tone's, alpha is kept. The input is not changed. */
export function inTone(raster: Raster, tone: ToneChoice): Raster {
  const colour = toneColour(tone);
  if (!colour) return raster;
  const pixels = new Int32Array(raster.width * raster.height);
  const [red, green, blue] = colour;
  const ink = red | (green << 8) | (blue << 16);
  const from = pixelNumbers(raster);
  for (let at = 0; at < pixels.length; at++) pixels[at] = (from[at] & ALPHA) | ink;
  return { ...raster, data: new Uint8ClampedArray(pixels.buffer) };
}
