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
  for (let y = 0; y < height; y++) averageRow(raster, factor, y, data, width);
  return { data, width, height, channels: 4 };
}

/** By a call for each row: the first rasters of a process are made fast sooner. */
function averageRow(
  { data: from, width: rowWidth }: Raster,
  factor: number,
  y: number,
  data: Uint8ClampedArray,
  width: number,
): void {
  const count = factor * factor;
  for (let x = 0, to = y * width * 4; x < width; x++, to += 4) {
    let red = 0;
    let green = 0;
    let blue = 0;
    let alpha = 0;
    const corner = (y * factor * rowWidth + x * factor) * 4;
    for (let row = 0; row < factor; row++) {
      let at = corner + row * rowWidth * 4;
      for (let column = 0; column < factor; column++, at += 4) {
        const share = from[at + 3];
        // Most of a mark's box is empty.
        if (share === 0) continue;
        red += from[at] * share;
        green += from[at + 1] * share;
        blue += from[at + 2] * share;
        alpha += share;
      }
    }
    if (alpha === 0) continue;
    data[to] = red / alpha;
    data[to + 1] = green / alpha;
    data[to + 2] = blue / alpha;
    data[to + 3] = Math.min(OPAQUE, alpha / count);
  }
}
