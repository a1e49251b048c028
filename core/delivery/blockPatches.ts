import { boxAroundAll, type Box, type Size } from '../placement/geometry.ts';

/** Programs put each patch in by reading and writing the whole file once more. */
const MOST_PATCHES = 12;

/**
 * The parts of a JPEG that are encoded again: whole blocks, as few as the boxes touch. Those that touch
 * each other become one; of more than twelve, those become one that add the least between them.
 *
 * @param boxes px, may reach over the edges
 * @param block size of what is encoded as one, px: 8 or 16 each way for the common samplings
 * @returns whole blocks, but for what the right and lower edge cut off
 */
export function blockPatches(boxes: readonly Box[], photo: Size, block: Size): Box[] {
  const patches = boxes.flatMap((box) => onBlocks(box, photo, block));
  for (let at = 0; at < patches.length;) {
    const other = patches.findIndex((patch, index) => index > at && overlaps(patches[at], patch));
    if (other < 0) at++;
    else {
      join(patches, at, other);
      at = 0;
    }
  }
  while (patches.length > MOST_PATCHES) {
    join(patches, ...nearest(patches));
  }
  return patches;
}

function onBlocks(box: Box, photo: Size, block: Size): Box[] {
  const down = (value: number, step: number): number =>
    Math.floor(Math.max(0, value) / step) * step;
  const up = (value: number, step: number): number => Math.ceil(value / step) * step;
  const x = down(box.x, block.width);
  const y = down(box.y, block.height);
  const right = Math.min(photo.width, up(box.x + box.width, block.width));
  const bottom = Math.min(photo.height, up(box.y + box.height, block.height));
  return right > x && bottom > y ? [{ x, y, width: right - x, height: bottom - y }] : [];
}

function overlaps(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}

const around = (a: Box, b: Box): Box => boxAroundAll([a, b]) ?? a;

/** Puts the one round both in the place of the first. */
function join(patches: Box[], first: number, second: number): void {
  patches[first] = around(patches[first], patches[second]);
  patches.splice(second, 1);
}

const area = ({ width, height }: Box): number => width * height;

function nearest(patches: readonly Box[]): [number, number] {
  let best: [number, number] = [0, 1];
  let least = Infinity;
  for (let a = 0; a < patches.length; a++) {
    for (let b = a + 1; b < patches.length; b++) {
      const added = area(around(patches[a], patches[b])) - area(patches[a]) - area(patches[b]);
      if (added < least) [best, least] = [[a, b], added];
    }
  }
  return best;
}
