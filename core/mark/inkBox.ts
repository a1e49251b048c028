import type { Box } from '../placement/geometry.ts';
import type { Raster } from '../pixels.ts';

/** Alpha from which a pixel counts as visible, of 255 (contract, section 2). */
export const VISIBLE_ALPHA = 8;

/** The tight box round what is visible, in whole pixels of the raster, or null if nothing is. */
export function inkBox(raster: Raster): Box | null {
  const { data, width, height } = raster;
  let left = width;
  let right = -1;
  let top = -1;
  let bottom = -1;
  for (let y = 0; y < height; y++) {
    const row = y * width * 4 + 3;
    for (let x = 0; x < width; x++) {
      if (data[row + x * 4] < VISIBLE_ALPHA) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (top < 0) top = y;
      bottom = y;
    }
  }
  if (right < 0) return null;
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
