import { SIZE_MAX_PERCENT, SIZE_MAX_PX, type Anchor, type SizeRule } from '../contract/preset.ts';
import { ANCHOR_HOLDS, type Hold } from './anchor.ts';
import { clamp, type Box, type Point } from './geometry.ts';

/** A mark that is sized and turned by its handles. */

const SMALLEST_VALUE = 0.1;
/** Sizes set by hand are kept to hundredths of a percent, or of a pixel. */
const STEPS_PER_UNIT = 100;

/** The size rule of a mark that was made `factor` times as large. */
export function resizedRule({ basis, value }: SizeRule, factor: number): SizeRule {
  // Area grows with the square of a side.
  const grown = value * (basis === 'area' ? factor ** 2 : factor);
  const most = basis === 'pixels' ? SIZE_MAX_PX : SIZE_MAX_PERCENT;
  const stepped = Math.round(grown * STEPS_PER_UNIT) / STEPS_PER_UNIT;
  return { basis, value: clamp(stepped, SMALLEST_VALUE, most) };
}

/** The point of a box that stays where it is while the mark grows at its anchor. */
export function heldPoint({ x, y, width, height }: Box, anchor: Anchor): Point {
  const holds = ANCHOR_HOLDS[anchor];
  const along = (hold: Hold, start: number, length: number): number =>
    hold === 'start' ? start : hold === 'end' ? start + length : start + length / 2;
  return { x: along(holds.x, x, width), y: along(holds.y, y, height) };
}

const FULL_TURN = 360;

/** An angle as rules have it, from −180 to 180, to a tenth of a degree. */
export function tidyAngle(angleDeg: number): number {
  const turned = angleDeg - FULL_TURN * Math.round(angleDeg / FULL_TURN);
  return Math.round(turned * 10) / 10 + 0;
}
