import type { Anchor, InsetRule, PresetRule } from '../contract/preset.ts';
import { ANCHOR_HOLDS, anchorFor, type Hold } from './anchor.ts';
import { clamp, type Point, type Size } from './geometry.ts';

const PERCENT = 100;
const INSET_PERCENT_MAX = 100;
const OFFSET_PERCENT_MAX = 100;

/** Insets and offsets set by hand are kept to this fraction of a percent: 0.1 % of 4,000 px is 4 px. */
const STEPS_PER_PERCENT = 10;

/** A mark whose centre lies within this share of the frame from the middle is held in the middle. */
const MIDDLE_SHARE = 1 / 6;

/** Two insets closer than this (percent of the short side) were meant to be equal. */
const EQUAL_INSETS_PERCENT = 0.7;

/** The part of a rule that says where a mark sits. */
export type PositionRule = Pick<PresetRule, 'anchor' | 'inset' | 'offset'>;

/**
 * The rule that puts a mark where a hand has let it go: the inverse of the anchoring in `placeMark`.
 * The nearest of the nine anchors is taken; gaps become the inset, on a centred axis the distance
 * from the middle becomes the offset. The mark is kept inside the frame.
 *
 * @param box size of the rotated box, px
 * @param centre where its centre was let go, px
 * @param unit of the inset that comes out
 */
export function ruleFromPosition(
  frame: Size,
  box: Size,
  centre: Point,
  unit: InsetRule['unit'] = 'percent',
): PositionRule {
  const inside = {
    x: clampedCentre(centre.x, frame.width, box.width),
    y: clampedCentre(centre.y, frame.height, box.height),
  };
  const anchor = nearestAnchor(frame, inside);
  const holds = ANCHOR_HOLDS[anchor];
  const shortSide = Math.min(frame.width, frame.height);
  const x = alongAxis(holds.x, frame.width, box.width, inside.x, shortSide);
  const y = alongAxis(holds.y, frame.height, box.height, inside.y, shortSide);
  const corner = holds.x !== 'centre' && holds.y !== 'centre';
  const same = corner && Math.abs(x.inset - y.inset) <= EQUAL_INSETS_PERCENT;
  const inset = same
    ? { x: Math.min(x.inset, y.inset), y: Math.min(x.inset, y.inset) }
    : // On an axis that is centred the inset does nothing; both keep one number there.
      {
        x: holds.x === 'centre' ? y.inset : x.inset,
        y: holds.y === 'centre' ? x.inset : y.inset,
      };
  return { anchor, inset: inUnit(inset, unit, shortSide), offset: { x: x.offset, y: y.offset } };
}

function inUnit(percent: Point, unit: InsetRule['unit'], shortSide: number): InsetRule {
  if (unit === 'percent') return { unit, ...percent };
  const toPixels = (value: number): number => Math.round((value * shortSide) / PERCENT);
  return { unit, x: toPixels(percent.x), y: toPixels(percent.y) };
}

export function nearestAnchor(frame: Size, centre: Point): Anchor {
  return anchorFor(nearestHold(centre.x / frame.width), nearestHold(centre.y / frame.height));
}

function nearestHold(share: number): Hold {
  if (Math.abs(share - 0.5) <= MIDDLE_SHARE) return 'centre';
  return share < 0.5 ? 'start' : 'end';
}

function clampedCentre(at: number, frameLength: number, length: number): number {
  const half = Math.min(length, frameLength) / 2;
  return clamp(at, half, frameLength - half);
}

function alongAxis(hold: Hold, frameLength: number, length: number, at: number, shortSide: number) {
  if (hold === 'centre') {
    const offset = ((at - frameLength / 2) / shortSide) * PERCENT;
    return { inset: 0, offset: stepped(clamp(offset, -OFFSET_PERCENT_MAX, OFFSET_PERCENT_MAX)) };
  }
  const gap = hold === 'start' ? at - length / 2 : frameLength - at - length / 2;
  const inset = clamp((gap / shortSide) * PERCENT, 0, INSET_PERCENT_MAX);
  return { inset: stepped(inset), offset: 0 };
}

function stepped(percent: number): number {
  // Adding 0 turns a negative zero into zero, which a file would otherwise keep as "-0".
  return Math.round(percent * STEPS_PER_PERCENT) / STEPS_PER_PERCENT + 0;
}
