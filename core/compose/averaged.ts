import { OPAQUE, type Raster } from '../pixels.ts';

/**
 * A raster drawn `factor` times as large, brought to size: each pixel is the mean of a square, with
 * colours weighed by alpha.
 *
 * @param factor whole; width and height of the raster are multiples of it
 */
export function averaged(raster: Raster, factor: number): Raster {
  if (factor === 1) return raster;
  const width = raster.width / factor;
  const height = raster.height / factor;
  const data = new Uint8ClampedArray(width * height * 4);
  const count = factor * factor;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let [red, green, blue, alpha] = [0, 0, 0, 0];
      for (let row = y * factor; row < (y + 1) * factor; row++) {
        let at = (row * raster.width + x * factor) * 4;
        for (let column = 0; column < factor; column++, at += 4) {
          const share = raster.data[at + 3];
          red += raster.data[at] * share;
          green += raster.data[at + 1] * share;
          blue += raster.data[at + 2] * share;
          alpha += share;
        }
      }
      if (alpha === 0) continue;
      const to = (y * width + x) * 4;
      data[to] = red / alpha;
      data[to + 1] = green / alpha;
      data[to + 2] = blue / alpha;
      data[to + 3] = Math.min(OPAQUE, alpha / count);
    }
  }
  return { data, width, height, channels: 4 };
}
