import { degrees, radians } from '../placement/geometry.ts';

/** A circle that words run along: its radius, units, and whether they hang from it. */
export interface Bend {
  readonly radius: number;
  readonly hangs: boolean;
}

/** The circle on which words of a width span an angle; null is straight. */
export function bendOf(arcDeg: number, width: number): Bend | null {
  if (arcDeg === 0 || width <= 0) return null;
  return { radius: width / radians(Math.abs(arcDeg)), hangs: arcDeg < 0 };
}

/**
 * Where a point of straight words comes to lie, with its turn in degrees. The middle of the first
 * baseline stays where it was.
 */
export function bentPlace(
  x: number,
  y: number,
  { radius, hangs }: Bend,
): { readonly x: number; readonly y: number; readonly turnDeg: number } {
  const angle = x / radius;
  const far = hangs ? radius + y : Math.max(0, radius - y);
  const sense = hangs ? -1 : 1;
  return {
    x: far * Math.sin(angle),
    y: sense * (radius - far * Math.cos(angle)),
    turnDeg: sense * degrees(angle),
  };
}
