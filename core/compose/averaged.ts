import { pixelNumbers } from '../pixelNumbers.ts';
import type { Raster } from '../pixels.ts';

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
  const pixels = pixelNumbers(raster);
  for (let y = 0; y < height; y++) averageRow(pixels, factor, y, data, width);
  return { data, width, height, channels: 4 };
}

/** By a call for each row: the first rasters of a process are made fast sooner. */
function averageRow(
  pixels: Int32Array,
  factor: number,
  y: number,
  data: Uint8ClampedArray,
  width: number,
): void {
  const count = factor * factor;
  const rowWidth = width * factor;
  for (let x = 0, to = y * width * 4; x < width; x++, to += 4) {
    let red = 0;
    let green = 0;
    let blue = 0;
    let alpha = 0;
    const corner = y * factor * rowWidth + x * factor;
    for (let row = 0; row < factor; row++) {
      const start = corner + row * rowWidth;
      for (let at = start; at < start + factor; at++) {
        const pixel = pixels[at];
        const share = pixel >>> 24;
        alpha += share;
        // Most of a mark's box is empty, and most ink is drawn in black before it has its tone.
        if ((pixel & 0xffffff) === 0) continue;
        red += (pixel & 0xff) * share;
        green += ((pixel >>> 8) & 0xff) * share;
        blue += ((pixel >>> 16) & 0xff) * share;
      }
    }
    if (alpha === 0) continue;
    data[to + 3] = alpha / count;
    if ((red | green | blue) === 0) continue;
    data[to] = red / alpha;
    data[to + 1] = green / alpha;
    data[to + 2] = blue / alpha;
  }
}
