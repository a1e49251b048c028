import type { Blend } from '../contract/preset.ts';
import { OPAQUE, OPAQUE_16, type Raster, type Samples } from '../pixels.ts';
import { blendFunction, lum, luminosity } from './blendModes.ts';
import type { Region } from './blendMark.ts';

/**
 * The same as for 8 bits, on a photo of 16 bits a sample, with or without transparency: by the formulas
 * themselves, since a table of all pairs of values would be too large. The mark keeps its 8 bits, which
 * are widened.
 */
export function blendDeep(
  photo: Samples<Uint16Array>,
  mark: Raster,
  region: Region,
  opacity: number,
  blend: Blend,
): void {
  const mix = mixing(blend);
  const { data, channels } = photo;
  const backdrop: Triple = [0, 0, 0];
  const source: Triple = [0, 0, 0];
  const mixed: Triple = [0, 0, 0];
  for (let y = region.y0; y < region.y1; y++) {
    for (let x = region.x0; x < region.x1; x++) {
      const m = ((y - region.top) * mark.width + x - region.left) * 4;
      const p = (y * photo.width + x) * channels;
      const over = (mark.data[m + 3] / OPAQUE) * opacity;
      if (over === 0) continue;
      const under = channels === 4 ? data[p + 3] / OPAQUE_16 : 1;
      const out = over + under * (1 - over);
      for (let c = 0; c < 3; c++) {
        backdrop[c] = data[p + c] / OPAQUE_16;
        source[c] = mark.data[m + c] / OPAQUE;
      }
      mix(backdrop, source, mixed);
      for (let c = 0; c < 3; c++) {
        const colour = (1 - under) * source[c] + under * mixed[c];
        data[p + c] = sample((over * colour + (1 - over) * under * backdrop[c]) / out);
      }
      if (channels === 4) data[p + 3] = sample(out);
    }
  }
}

type Triple = [number, number, number];

/** B(Cb, Cs), all from 0 to 1, written into `into`. */
function mixing(blend: Blend): (backdrop: Triple, source: Triple, into: Triple) => void {
  if (blend === 'luminosity') {
    return (backdrop, [r, g, b], into) => luminosity(backdrop, lum(r, g, b), into, 1);
  }
  const mix = blendFunction(blend);
  return (backdrop, source, into) => {
    for (let c = 0; c < 3; c++) into[c] = mix(backdrop[c], source[c]);
  };
}

/** Unlike clamped bytes, words are cut off, not rounded. */
function sample(value: number): number {
  return Math.min(Math.max(value, 0), 1) * OPAQUE_16 + 0.5;
}
