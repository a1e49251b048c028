import type { Samples } from '../pixels.ts';
import type { Box, Size } from './geometry.ts';

/**
 * Between a photo as it is stored and as it is looked at: the eight orientations of EXIF (CIPA DC-008,
 * 4.6.5.1.6). A stored place is an upright one with its axes swapped, where those of the orientation
 * are, and then mirrored in the stored frame.
 */
interface Turn {
  readonly swaps: boolean;
  readonly mirrorsX: boolean;
  readonly mirrorsY: boolean;
}

const turn = (swaps: boolean, mirrorsX: boolean, mirrorsY: boolean): Turn =>
  Object.freeze({ swaps, mirrorsX, mirrorsY });

const UPRIGHT = turn(false, false, false);
const TURNS: readonly Turn[] = Object.freeze([
  UPRIGHT,
  turn(false, true, false),
  turn(false, true, true),
  turn(false, false, true),
  turn(true, false, false),
  turn(true, false, true),
  turn(true, true, true),
  turn(true, true, false),
]);

/** @param orientation 1 to 8; anything else is taken for upright, as readers do */
const turnOf = (orientation: number): Turn => TURNS[orientation - 1] ?? UPRIGHT;

/** The size that is stored, of the size that is looked at; and the other way round. */
export function turnedSize({ width, height }: Size, orientation: number): Size {
  return turnOf(orientation).swaps ? { width: height, height: width } : { width, height };
}

/** @param stored size of the whole photo as it is stored */
export function storedBox(upright: Box, stored: Size, orientation: number): Box {
  const { swaps } = turnOf(orientation);
  return mirrored(swaps ? swapped(upright) : upright, stored, orientation);
}

/** The inverse of {@link storedBox}. */
export function uprightBox(box: Box, stored: Size, orientation: number): Box {
  const back = mirrored(box, stored, orientation);
  return turnOf(orientation).swaps ? swapped(back) : back;
}

const swapped = ({ x, y, width, height }: Box): Box => ({
  x: y,
  y: x,
  width: height,
  height: width,
});

function mirrored({ x, y, width, height }: Box, stored: Size, orientation: number): Box {
  const { mirrorsX, mirrorsY } = turnOf(orientation);
  return {
    x: mirrorsX ? stored.width - x - width : x,
    y: mirrorsY ? stored.height - y - height : y,
    ...{ width, height },
  };
}

type Part = Samples<Uint8ClampedArray>;

/** A part of a photo as it is looked at, of the same part as it is stored; itself, where those are one. */
export function uprightPixels(stored: Part, orientation: number): Part {
  if (turnOf(orientation) === UPRIGHT) return stored;
  return moved(stored, turnedSize(stored, orientation), (x, y) =>
    storedBox({ x, y, width: 1, height: 1 }, stored, orientation),
  );
}

/** The inverse of {@link uprightPixels}. */
export function storedPixels(upright: Part, orientation: number): Part {
  if (turnOf(orientation) === UPRIGHT) return upright;
  const stored = turnedSize(upright, orientation);
  return moved(upright, stored, (x, y) =>
    uprightBox({ x, y, width: 1, height: 1 }, stored, orientation),
  );
}

/** @param from where in the source the pixel at a place of the result lies */
function moved(source: Part, to: Size, from: (x: number, y: number) => Box): Part {
  const { data, width, channels } = source;
  const result = new Uint8ClampedArray(data.length);
  // The way from place to place is linear: two neighbours tell all of it.
  const at = ({ x, y }: Box): number => (y * width + x) * channels;
  const first = at(from(0, 0));
  const right = at(from(1, 0)) - first;
  const down = at(from(0, 1)) - first;
  let place = 0;
  for (let y = 0; y < to.height; y++) {
    for (let x = 0; x < to.width; x++) {
      const origin = first + x * right + y * down;
      for (let c = 0; c < channels; c++) result[place++] = data[origin + c];
    }
  }
  return { ...to, channels, data: result };
}
