import type { Point } from '../placement/geometry.ts';
import type { Quad } from './homography.ts';
import type { Region } from './surfaces.ts';

/** Outlines of regions on a small plane, and the four corners that come closest to them. */

/** The convex hull of a region, px; clockwise as seen with y downwards. */
export function hullOf({ rows }: Region): Point[] {
  return convexHull(
    [...rows].flatMap(([y, [first, last]]) => [
      ...[0, 1].map((down) => ({ x: first, y: y + down })),
      ...[0, 1].map((down) => ({ x: last + 1, y: y + down })),
    ]),
  );
}

function cross(o: Point, a: Point, b: Point): number {
  return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);
}

/** Andrew's monotone chain (1979). */
function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y);
  const half = (line: readonly Point[]): Point[] => {
    const chain: Point[] = [];
    for (const point of line) {
      while (
        chain.length > 1 &&
        cross(chain[chain.length - 2], chain[chain.length - 1], point) <= 0
      )
        chain.pop();
      chain.push(point);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/** Whether a place lies inside of a convex outline or on it. */
export function isWithin(hull: readonly Point[], place: Point): boolean {
  return hull.every((a, index) => cross(a, hull[(index + 1) % hull.length], place) >= 0);
}

export function areaOf(polygon: readonly Point[]): number {
  let twice = 0;
  polygon.forEach((a, index) => {
    const b = polygon[(index + 1) % polygon.length];
    twice += a.x * b.y - b.x * a.y;
  });
  return Math.abs(twice) / 2;
}

/** Takes edges away, each time the one whose neighbours close the gap with the least new area. */
export function fourCorners(hull: readonly Point[]): Quad | null {
  const polygon = [...hull];
  while (polygon.length > 4) {
    let best: { at: number; added: number; corner: Point } | null = null;
    for (let at = 0; at < polygon.length; at++) {
      const [before, a, b, after] = [-1, 0, 1, 2].map(
        (step) => polygon[(at + step + polygon.length) % polygon.length],
      );
      const corner = meeting(before, a, after, b);
      if (!corner) continue;
      const added = areaOf([a, corner, b]);
      if (!best || added < best.added) best = { at, added, corner };
    }
    if (!best) return null;
    const next = (best.at + 1) % polygon.length;
    polygon[best.at] = best.corner;
    polygon.splice(next, 1);
  }
  if (polygon.length < 4) return null;
  const start = polygon.reduce(
    (least, { x, y }, index) => (x + y < polygon[least].x + polygon[least].y ? index : least),
    0,
  );
  return [0, 1, 2, 3].map((step) => polygon[(start + step) % 4]) as unknown as Quad;
}

/** Where the line from `a` through `b` meets the one from `c` through `d`, beyond `b` and `d`. */
function meeting(a: Point, b: Point, c: Point, d: Point): Point | null {
  const dx1 = b.x - a.x;
  const dy1 = b.y - a.y;
  const dx2 = d.x - c.x;
  const dy2 = d.y - c.y;
  const det = dx1 * dy2 - dy1 * dx2;
  if (Math.abs(det) < 1e-9) return null;
  const along = ((c.x - a.x) * dy2 - (c.y - a.y) * dx2) / det;
  const other = ((c.x - a.x) * dy1 - (c.y - a.y) * dx1) / det;
  if (along < 1 || other < 1) return null;
  return { x: a.x + dx1 * along, y: a.y + dy1 * along };
}
