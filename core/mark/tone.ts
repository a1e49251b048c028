import type { ToneChoice } from '../contract/preset.ts';
import { rgbOf, type Rgb } from '../colour/hex.ts';
import type { Raster } from '../pixels.ts';

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

/** The raster in a tone: every colour becomes the tone's, alpha is kept. The input is not changed. */
export function inTone(raster: Raster, tone: ToneChoice): Raster {
  const colour = toneColour(tone);
  if (!colour) return raster;
  const data = new Uint8ClampedArray(raster.data);
  for (let at = 0; at < data.length; at += 4) {
    data[at] = colour[0];
    data[at + 1] = colour[1];
    data[at + 2] = colour[2];
  }
  return { ...raster, data };
}
