import type { HandStroke } from '../contract/lift.ts';
import type { Box, Size } from '../placement/geometry.ts';

/**
 * Which pixels of the crop were stroked by hand, 1 a pixel, or null where none were.
 *
 * @param sheet the straightened sheet that the strokes' points are shares of, px
 */
export function strokedPixels(
  strokes: readonly HandStroke[],
  does: HandStroke['does'],
  sheet: Size,
  crop: Box,
): Uint8Array | null {
  const wanted = strokes.filter((stroke) => stroke.does === does);
  if (wanted.length === 0) return null;
  const mask = new Uint8Array(crop.width * crop.height);
  for (const { points, radius } of wanted) {
    const radiusPx = Math.max(0.5, radius * Math.max(crop.width, crop.height));
    let [lastX, lastY] = [NaN, NaN];
    for (let at = 0; at + 1 < points.length; at += 2) {
      const x = points[at] * sheet.width - crop.x;
      const y = points[at + 1] * sheet.height - crop.y;
      const steps = Math.ceil(Math.hypot(x - lastX, y - lastY) / (radiusPx / 2)) || 1;
      for (let step = 1; step <= steps; step++) {
        const share = Number.isNaN(lastX) ? 1 : step / steps;
        const fromX = Number.isNaN(lastX) ? x : lastX;
        const fromY = Number.isNaN(lastY) ? y : lastY;
        disc(mask, crop, fromX + (x - fromX) * share, fromY + (y - fromY) * share, radiusPx);
      }
      [lastX, lastY] = [x, y];
    }
  }
  return mask;
}

function disc(mask: Uint8Array, { width, height }: Size, x: number, y: number, radius: number) {
  const top = Math.max(0, Math.ceil(y - radius - 0.5));
  const bottom = Math.min(height - 1, Math.floor(y + radius - 0.5));
  for (let row = top; row <= bottom; row++) {
    const half = Math.sqrt(Math.max(0, radius ** 2 - (row + 0.5 - y) ** 2));
    const left = Math.max(0, Math.ceil(x - half - 0.5));
    const right = Math.min(width, Math.floor(x + half - 0.5) + 1);
    if (right > left) mask.fill(1, row * width + left, row * width + right);
  }
}

/** Takes away what was rubbed out; changes the plane. */
export function rubOut(data: Uint8Array, rubbed: Uint8Array | null): void {
  if (!rubbed) return;
  for (let at = 0; at < data.length; at++) if (rubbed[at]) data[at] = 0;
}
