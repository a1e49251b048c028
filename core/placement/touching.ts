import type { Box } from './geometry.ts';
import type { Copy } from './placeMark.ts';

/** Whether any two of several marks on a photo lie over each other: by the boxes of their copies. */
export function marksTouch(marks: readonly (readonly Copy[])[]): boolean {
  return marks.some((copies, index) =>
    marks
      .slice(index + 1)
      .some((others) => copies.some(({ box }) => others.some((other) => overlap(box, other.box)))),
  );
}

function overlap(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
