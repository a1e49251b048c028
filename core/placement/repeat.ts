import type { RepeatRule } from '../contract/preset.ts';
import { failure, success, type Result } from '../result.ts';
import { turned, type Point, type Size } from './geometry.ts';

/** More copies than this are refused: no photo needs them, and drawing them would take minutes. */
export const MAX_COPIES = 4_000;

/** A box that reaches less than this far into the frame (px) is beside it: rounding, not presence. */
const TOUCH_TOLERANCE_PX = 1e-6;

const PERCENT = 100;

/**
 * Centres of all copies whose box touches the frame, row by row.
 *
 * @param mark unrotated size; the pitch of the grid is measured from it
 * @param box rotated size; decides what touches the frame
 * @param origin centre of the anchored copy, about which the grid turns
 */
export function repeatCentres(
  frame: Size,
  mark: Size,
  box: Size,
  origin: Point,
  rule: RepeatRule,
): Result<Point[]> {
  const pitch = {
    x: mark.width * (1 + rule.gapX / PERCENT),
    y: mark.height * (1 + rule.gapY / PERCENT),
  };
  const reach = gridReach(frame, box, origin, rule.angle);
  const rows = { from: Math.ceil(reach.top / pitch.y), to: Math.floor(reach.bottom / pitch.y) };
  const columnsAtMost = (reach.right - reach.left) / pitch.x + 1;
  // A turned grid overshoots the frame's corners, so at most about half of its cells can be outside
  // of a rectangle; four times the limit is past any grid that could still be allowed.
  const OVERSHOOT = 16;
  if ((rows.to - rows.from + 1) * columnsAtMost > MAX_COPIES * OVERSHOOT) return tooMany(null);

  const centres: Point[] = [];
  for (let row = rows.from; row <= rows.to; row++) {
    const shift = rule.stagger && row % 2 !== 0 ? pitch.x / 2 : 0;
    const first = Math.ceil((reach.left - shift) / pitch.x);
    const last = Math.floor((reach.right - shift) / pitch.x);
    for (let column = first; column <= last; column++) {
      const step = turned({ x: column * pitch.x + shift, y: row * pitch.y }, rule.angle);
      const centre = { x: origin.x + step.x, y: origin.y + step.y };
      if (touches(frame, box, centre)) centres.push(centre);
    }
  }
  return centres.length > MAX_COPIES ? tooMany(centres.length) : success(centres);
}

/** Range of grid coordinates (unturned, from the origin) in which a copy can touch the frame. */
function gridReach(frame: Size, box: Size, origin: Point, angleDeg: number) {
  const left = -box.width / 2 - origin.x;
  const top = -box.height / 2 - origin.y;
  const right = frame.width + box.width / 2 - origin.x;
  const bottom = frame.height + box.height / 2 - origin.y;
  const corners = [
    { x: left, y: top },
    { x: right, y: top },
    { x: left, y: bottom },
    { x: right, y: bottom },
  ].map((corner) => turned(corner, -angleDeg));
  const xs = corners.map((corner) => corner.x);
  const ys = corners.map((corner) => corner.y);
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    top: Math.min(...ys),
    bottom: Math.max(...ys),
  };
}

function touches(frame: Size, box: Size, centre: Point): boolean {
  return (
    centre.x + box.width / 2 > TOUCH_TOLERANCE_PX &&
    centre.x - box.width / 2 < frame.width - TOUCH_TOLERANCE_PX &&
    centre.y + box.height / 2 > TOUCH_TOLERANCE_PX &&
    centre.y - box.height / 2 < frame.height - TOUCH_TOLERANCE_PX
  );
}

function tooMany(found: number | null): Result<Point[]> {
  const count = found === null ? 'far more' : found.toLocaleString('en');
  return failure(
    `Expected at most ${MAX_COPIES.toLocaleString('en')} copies of the repeated mark, found ${count}. ` +
      'Make the mark larger or the gaps wider.',
  );
}
