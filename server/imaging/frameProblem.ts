import type { Size } from '#core/placement/geometry';
import { MAX_PHOTO_PIXELS } from './limits.ts';

/** Why an output of this size is not made, or null: a delivery may enlarge without bound. */
export function frameProblem(frame: Size): string | null {
  if (frame.width * frame.height <= MAX_PHOTO_PIXELS) return null;
  return (
    `Expected an output of at most ${MAX_PHOTO_PIXELS / 1e6} megapixels, ` +
    `found ${frame.width} × ${frame.height} px.`
  );
}
