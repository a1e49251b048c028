import type { Canvas } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';

/** Places of a canvas that are looked at before and after a mark is drawn. */
const MOST_SAMPLES = 10_000;
/** A mark that changes nothing by this many levels of 255 is not seen in a file either. */
const SEEN_LEVELS = 3;

/** What a canvas holds where a mark is about to be drawn. @param boxes what the mark may cover, px */
export function samplesUnder(canvas: Canvas, boxes: readonly Box[]): Uint16Array {
  return Uint16Array.from(placesIn(canvas, boxes), (at) => canvas.data[at]);
}

/** Whether the mark that was drawn since can be seen. @param before by {@link samplesUnder} */
export function isSeen(canvas: Canvas, boxes: readonly Box[], before: Uint16Array): boolean {
  const limit = canvas.depth === 16 ? SEEN_LEVELS * 257 : SEEN_LEVELS;
  let index = 0;
  for (const at of placesIn(canvas, boxes)) {
    if (Math.abs(canvas.data[at] - before[index++]) >= limit) return true;
  }
  return false;
}

/** Samples of the boxes, evenly spread; the boxes may reach over the edges. */
function* placesIn({ width, height, channels }: Canvas, boxes: readonly Box[]): Generator<number> {
  const inside = boxes.map(({ x, y, width: w, height: h }) => ({
    ...{ left: Math.max(0, Math.floor(x)), right: Math.min(width, Math.ceil(x + w)) },
    ...{ top: Math.max(0, Math.floor(y)), bottom: Math.min(height, Math.ceil(y + h)) },
  }));
  const area = inside.reduce(
    (sum, { left, right, top, bottom }) =>
      sum + Math.max(0, right - left) * Math.max(0, bottom - top),
    0,
  );
  const step = Math.max(1, Math.ceil(Math.sqrt(area / MOST_SAMPLES)));
  for (const { left, right, top, bottom } of inside) {
    for (let y = top; y < bottom; y += step) {
      for (let x = left; x < right; x += step) {
        const at = (y * width + x) * channels;
        yield at;
        yield at + 1;
        yield at + 2;
      }
    }
  }
}
