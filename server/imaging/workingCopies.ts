import type { Box, Size } from '#core/placement/geometry';
import { scaledCopies } from '#core/placement/scaledCopies';
import type { Copy, Placement } from '#core/placement/placeMark';
import { reachOf } from '#core/readability/measure';

/** The copies of a placement in a photo of a size. @param frame that the placement is for */
export function workingCopies(placement: Placement, size: Size, frame: Size): Copy[] {
  return scaledCopies(placement.copies, size.width / frame.width);
}

/** The part of a photo that holds all copies with the ground round them; null beside the photo. */
export function windowRound(copies: readonly Copy[], { width, height }: Size): Box | null {
  const edges = copies.map(({ box }) => ({ box, reach: reachOf(box) + 1 }));
  const low = (along: 'x' | 'y'): number =>
    Math.max(0, Math.floor(Math.min(...edges.map(({ box, reach }) => box[along] - reach))));
  const x = low('x');
  const y = low('y');
  const right = Math.max(...edges.map(({ box, reach }) => box.x + box.width + reach));
  const bottom = Math.max(...edges.map(({ box, reach }) => box.y + box.height + reach));
  const window = {
    ...{ x, y },
    width: Math.min(width, Math.ceil(right)) - x,
    height: Math.min(height, Math.ceil(bottom)) - y,
  };
  return window.width > 0 && window.height > 0 ? window : null;
}

/** A box with so much more on each side, as far as the photo goes; whole px. */
export function grownWithin({ x, y, width, height }: Box, by: number, photo: Size): Box {
  const left = Math.max(0, x - by);
  const top = Math.max(0, y - by);
  const right = Math.min(photo.width, x + width + by);
  const bottom = Math.min(photo.height, y + height + by);
  return { x: left, y: top, width: right - left, height: bottom - top };
}
