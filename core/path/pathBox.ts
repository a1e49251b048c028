import type { Box } from '../placement/geometry.ts';
import type { Path } from './path.ts';

/**
 * The tight box round a path, exact for curves: besides the ends, a Bézier curve is widest where
 * its derivative is zero. Null for a path without points.
 */
export function pathBox(path: Path): Box | null {
  const reach = [Infinity, Infinity, -Infinity, -Infinity];
  const from = [0, 0];
  const take = (axis: 0 | 1, value: number): void => {
    reach[axis] = Math.min(reach[axis], value);
    reach[axis + 2] = Math.max(reach[axis + 2], value);
  };
  for (const { op, at } of path) {
    if (op === 'Z') continue;
    for (const axis of [0, 1] as const) {
      const points = [from[axis]];
      for (let index = axis; index < at.length; index += 2) points.push(at[index]);
      take(axis, points[points.length - 1]);
      if (op === 'M') continue;
      take(axis, points[0]);
      for (const turn of turningPoints(points)) take(axis, turn);
    }
    from[0] = at[at.length - 2];
    from[1] = at[at.length - 1];
  }
  const [left, top, right, bottom] = reach;
  return right < left ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

/** Values at which a curve of one coordinate turns back, by its points. */
function turningPoints(points: readonly number[]): number[] {
  if (points.length === 3) {
    const [a, b, c] = points;
    const bend = a - 2 * b + c;
    return bend === 0 ? [] : valuesAt(points, [(a - b) / bend]);
  }
  if (points.length !== 4) return [];
  const [p0, p1, p2, p3] = points;
  // Roots of the derivative a·t² + b·t + c.
  const a = -p0 + 3 * p1 - 3 * p2 + p3;
  const b = 2 * (p0 - 2 * p1 + p2);
  const c = p1 - p0;
  if (Math.abs(a) < 1e-12) return b === 0 ? [] : valuesAt(points, [-c / b]);
  const under = b * b - 4 * a * c;
  if (under < 0) return [];
  const root = Math.sqrt(under);
  return valuesAt(points, [(-b + root) / (2 * a), (-b - root) / (2 * a)]);
}

function valuesAt(points: readonly number[], times: readonly number[]): number[] {
  return times
    .filter((time) => time > 0 && time < 1)
    .map((time) => {
      // De Casteljau.
      let row = [...points];
      while (row.length > 1) {
        row = row.slice(1).map((value, index) => row[index] + (value - row[index]) * time);
      }
      return row[0];
    });
}

/** The box that holds all of them, or null for none. */
export function unionBox(boxes: readonly (Box | null)[]): Box | null {
  const real = boxes.filter((box) => box !== null);
  if (real.length === 0) return null;
  const x = Math.min(...real.map((box) => box.x));
  const y = Math.min(...real.map((box) => box.y));
  return {
    x,
    y,
    width: Math.max(...real.map((box) => box.x + box.width)) - x,
    height: Math.max(...real.map((box) => box.y + box.height)) - y,
  };
}

export function grownBox(box: Box, byX: number, byY = byX): Box {
  return {
    x: box.x - byX,
    y: box.y - byY,
    width: box.width + 2 * byX,
    height: box.height + 2 * byY,
  };
}
