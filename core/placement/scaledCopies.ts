import { scaled } from './geometry.ts';
import type { Copy } from './placeMark.ts';

/** Copies of a mark in the same photo at another size. */
export function scaledCopies(copies: readonly Copy[], factor: number): Copy[] {
  return copies.map(({ box, size, rotation }) => ({
    box: { x: box.x * factor, y: box.y * factor, ...scaled(box, factor) },
    size: scaled(size, factor),
    rotation,
  }));
}
