import type { Point } from '../placement/geometry.ts';

/**
 * A projective map of the plane, 3 × 3, row by row, with the last entry scaled to 1 where it can be.
 * Heckbert, "Fundamentals of Texture Mapping and Image Warping" (1989), chapter 2.
 */
export type Homography = readonly [
  ...[number, number, number],
  ...[number, number, number],
  ...[number, number, number],
];

/** Corners in this order: top left, top right, bottom right, bottom left. */
export type Quad = readonly [Point, Point, Point, Point];

export function mapped([a, b, c, d, e, f, g, h, i]: Homography, { x, y }: Point): Point {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** First `inner`, then `outer`. */
export function composed(outer: Homography, inner: Homography): Homography {
  const out = Array.from({ length: 9 }, (_, index) => {
    const row = Math.floor(index / 3) * 3;
    const column = index % 3;
    return (
      outer[row] * inner[column] +
      outer[row + 1] * inner[3 + column] +
      outer[row + 2] * inner[6 + column]
    );
  });
  return out as unknown as Homography;
}

/** The map that takes the unit square's corners to those of a convex quadrilateral. */
export function unitSquareTo([p0, p1, p2, p3]: Quad): Homography {
  const sumX = p0.x - p1.x + p2.x - p3.x;
  const sumY = p0.y - p1.y + p2.y - p3.y;
  const dx1 = p1.x - p2.x;
  const dx2 = p3.x - p2.x;
  const dy1 = p1.y - p2.y;
  const dy2 = p3.y - p2.y;
  const det = dx1 * dy2 - dx2 * dy1;
  const g = det === 0 ? 0 : (sumX * dy2 - dx2 * sumY) / det;
  const h = det === 0 ? 0 : (dx1 * sumY - sumX * dy1) / det;
  return [
    ...([p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x] as const),
    ...([p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y] as const),
    ...([g, h, 1] as const),
  ];
}

export function inverted([a, b, c, d, e, f, g, h, i]: Homography): Homography {
  return [
    ...([e * i - f * h, c * h - b * i, b * f - c * e] as const),
    ...([f * g - d * i, a * i - c * g, c * d - a * f] as const),
    ...([d * h - e * g, b * g - a * h, a * e - b * d] as const),
  ];
}

export function scaling(x: number, y: number): Homography {
  return [x, 0, 0, 0, y, 0, 0, 0, 1];
}

export function translation(x: number, y: number): Homography {
  return [1, 0, x, 0, 1, y, 0, 0, 1];
}

/** Turns by `angle` radians, clockwise as seen with y downwards. */
export function rotation(angle: number): Homography {
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  return [cos, -sin, 0, sin, cos, 0, 0, 0, 1];
}

/** Whether the corners go round once, clockwise, without a dent. */
export function isConvex(quad: Quad): boolean {
  return quad.every((corner, index) => {
    const next = quad[(index + 1) % 4];
    const after = quad[(index + 2) % 4];
    const cross =
      (next.x - corner.x) * (after.y - next.y) - (next.y - corner.y) * (after.x - next.x);
    return cross > 0;
  });
}
