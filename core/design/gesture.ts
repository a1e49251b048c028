import { unionBox } from '../path/pathBox.ts';
import { centreOf, turned, type Box, type Point } from '../placement/geometry.ts';
import { frameBox, type LayerFrame } from './frame.ts';

/** What a hand does to layers, as geometry: move with guides, size from a corner or side, turn. */

/** A corner or side: −1 left or top, 1 right or bottom, 0 neither. */
export interface Grip {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

/** The first is the one that keys take hold of. */
export const CORNERS: readonly Grip[] = Object.freeze([
  { x: -1, y: -1 },
  { x: 1, y: -1 },
  { x: 1, y: 1 },
  { x: -1, y: 1 },
]);
export const SIDES: readonly Grip[] = Object.freeze([
  { x: 0, y: -1 },
  { x: 1, y: 0 },
  { x: 0, y: 1 },
  { x: -1, y: 0 },
]);

/** The rectangle round what is chosen: a single layer's own, else upright round all. */
export function chosenFrame(frames: readonly LayerFrame[]): LayerFrame | null {
  if (frames.length === 1) return frames[0];
  const box = unionBox(frames.map(frameBox));
  return box && { centre: centreOf(box), width: box.width, height: box.height, turn: 0 };
}

export function movedFrame(frame: LayerFrame, by: Point): LayerFrame {
  return { ...frame, centre: { x: frame.centre.x + by.x, y: frame.centre.y + by.y } };
}

export interface SizeWish {
  readonly keepsRatio: boolean;
  /** The middle stays where it is, rather than the opposite corner. */
  readonly fromMiddle: boolean;
}

/** Nothing is sized smaller than this, units. */
const LEAST_SIDE = 1;

/** @param by how far the grip was pulled, units of the drawing */
export function sizedFrame(
  start: LayerFrame,
  grip: Grip,
  by: Point,
  { keepsRatio, fromMiddle }: SizeWish,
): LayerFrame {
  const along = turned(by, -start.turn);
  const times = fromMiddle ? 2 : 1;
  let width = Math.max(LEAST_SIDE, start.width + along.x * grip.x * times);
  let height = Math.max(LEAST_SIDE, start.height + along.y * grip.y * times);
  if (keepsRatio) {
    const factor =
      grip.x === 0
        ? height / start.height
        : grip.y === 0
          ? width / start.width
          : diagonalFactor(start, grip, along, times);
    width = start.width * factor;
    height = start.height * factor;
  }
  if (fromMiddle) return { ...start, width, height };
  const shift = turned(
    { x: ((width - start.width) / 2) * grip.x, y: ((height - start.height) / 2) * grip.y },
    start.turn,
  );
  return { ...movedFrame(start, shift), width, height };
}

/** How far along the diagonal a corner was pulled, so that it stays under the pointer. */
function diagonalFactor(start: LayerFrame, grip: Grip, along: Point, times: number): number {
  const { width, height } = start;
  const pulled = along.x * grip.x * width + along.y * grip.y * height;
  const factor = 1 + (pulled * times) / (width ** 2 + height ** 2);
  return Math.max(factor, LEAST_SIDE / Math.min(width, height));
}

/** A turn this near to a multiple of 45° becomes it, degrees. */
const TURN_CATCH_DEG = 2.5;
const CAUGHT_TURN_DEG = 45;
/** What a turn goes by in steps. */
export const TURN_STEP_DEG = 15;

/** @param inSteps turns by whole steps; else it is only caught near eighths of a turn */
export function turnedFrame(start: LayerFrame, byDeg: number, inSteps: boolean): LayerFrame {
  const turn = start.turn + byDeg;
  if (inSteps) return { ...start, turn: Math.round(turn / TURN_STEP_DEG) * TURN_STEP_DEG };
  const eighth = Math.round(turn / CAUGHT_TURN_DEG) * CAUGHT_TURN_DEG;
  return { ...start, turn: Math.abs(turn - eighth) < TURN_CATCH_DEG ? eighth : turn };
}

/** A layer's frame after the rectangle round what is chosen went from one to another. */
export function following(frame: LayerFrame, from: LayerFrame, to: LayerFrame): LayerFrame {
  const away = turned(
    { x: frame.centre.x - from.centre.x, y: frame.centre.y - from.centre.y },
    -from.turn,
  );
  const [scaleX, scaleY] = [to.width / from.width, to.height / from.height];
  const now = turned({ x: away.x * scaleX, y: away.y * scaleY }, to.turn);
  return {
    centre: { x: to.centre.x + now.x, y: to.centre.y + now.y },
    width: frame.width * scaleX,
    height: frame.height * scaleY,
    turn: frame.turn + to.turn - from.turn,
  };
}

/** Lines that a box was caught by, in units of the drawing. */
export interface Guides {
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/**
 * How far a box has to be moved so that its edges or middle lie on those of others, where they are
 * near enough, with the lines they then share.
 *
 * @param reach how near they have to be, units
 */
export function caught(
  box: Box,
  others: readonly Box[],
  reach: number,
): { readonly by: Point; readonly guides: Guides } {
  const x = caughtOn(
    linesOf(box, 'x'),
    others.flatMap((other) => linesOf(other, 'x')),
    reach,
  );
  const y = caughtOn(
    linesOf(box, 'y'),
    others.flatMap((other) => linesOf(other, 'y')),
    reach,
  );
  return { by: { x: x.by, y: y.by }, guides: { x: x.lines, y: y.lines } };
}

function linesOf(box: Box, axis: 'x' | 'y'): number[] {
  const length = axis === 'x' ? box.width : box.height;
  return [box[axis], box[axis] + length / 2, box[axis] + length];
}

function caughtOn(
  own: readonly number[],
  others: readonly number[],
  reach: number,
): { readonly by: number; readonly lines: readonly number[] } {
  let best: number | null = null;
  for (const line of own) {
    for (const other of others) {
      const by = other - line;
      if (Math.abs(by) <= reach && (best === null || Math.abs(by) < Math.abs(best))) best = by;
    }
  }
  if (best === null) return { by: 0, lines: [] };
  const by = best;
  const TOUCH = 0.01;
  const lines = others.filter((other) => own.some((line) => Math.abs(line + by - other) < TOUCH));
  return { by, lines: [...new Set(lines)] };
}
