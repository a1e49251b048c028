import { radians } from '../placement/geometry.ts';

/** An affine map as in SVG's `matrix(a b c d e f)`: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Matrix = readonly [number, number, number, number, number, number];

export const IDENTITY: Matrix = Object.freeze([1, 0, 0, 1, 0, 0] as const);

/** First sizes, then turns, then moves. @param turnDeg degrees clockwise, y pointing down */
export function matrixOf(
  x: number,
  y: number,
  turnDeg: number,
  scaleX: number,
  scaleY: number,
): Matrix {
  const angle = radians(turnDeg);
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  return [cos * scaleX, sin * scaleX, -sin * scaleY, cos * scaleY, x, y];
}

/** The map that applies `inner` first, then `outer`. */
export function multiplied(outer: Matrix, inner: Matrix): Matrix {
  const [a, b, c, d, e, f] = outer;
  const [g, h, i, j, k, l] = inner;
  return [
    a * g + c * h,
    b * g + d * h,
    a * i + c * j,
    b * i + d * j,
    a * k + c * l + e,
    b * k + d * l + f,
  ];
}

export function mapped([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] {
  return [a * x + c * y + e, b * x + d * y + f];
}
