import { scaled, type Box, type Size } from '#core/placement/geometry';
import type { Copy, Placement } from '#core/placement/placeMark';
import { reachOf } from '#core/readability/measure';

/** The copies of a placement in a photo of a size. @param frame that the placement is for */
export function workingCopies(placement: Placement, size: Size, frame: Size): Copy[] {
  return placement.copies.map((copy) => scaledCopy(copy, size.width / frame.width));
}

function scaledCopy({ box, size, rotation }: Copy, factor: number): Copy {
  const { width, height } = scaled(box, factor);
  return {
    box: { x: box.x * factor, y: box.y * factor, width, height },
    size: scaled(size, factor),
    rotation,
  };
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
