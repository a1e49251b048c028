import { getStroke } from 'perfect-freehand';
import type { PenDrawing, PenSettings, PenStroke } from '../contract/pen.ts';
import { filledSvg } from '../ink/liftArtwork.ts';
import { readPath, type Path } from '../path/path.ts';
import type { Box } from '../placement/geometry.ts';
import { failure, success, type Result } from '../result.ts';

/** Numbers a point of a stroke has: x, y, pressure. */
export const POINT_NUMBERS = 3;

const DECIMALS = 2;

type Place = readonly [number, number];

/** The outline of one stroke, a closed ring of points in px of the sheet. */
export function strokeRing({ points, pressure }: PenStroke, pen: PenSettings): Place[] {
  const input: [number, number, number][] = [];
  for (let at = 0; at + 2 < points.length; at += POINT_NUMBERS) {
    input.push([points[at], points[at + 1], points[at + 2]]);
  }
  return getStroke(input, {
    size: pen.weight,
    thinning: pen.contrast,
    smoothing: 0.5 + pen.smoothing / 2,
    streamline: pen.smoothing * 0.75,
    simulatePressure: !pressure,
    last: true,
  }).map(([x, y]): Place => [x, y]);
}

/** A ring as an SVG path: quadratic curves through the middles of its sides, so it has no corners. */
export function ringPath(ring: readonly Place[], shift: Place = [0, 0]): string {
  if (ring.length < 3) return '';
  const place = ([x, y]: Place): string => `${short(x + shift[0])} ${short(y + shift[1])}`;
  const middle = (index: number): Place => {
    const [ax, ay] = ring[index % ring.length];
    const [bx, by] = ring[(index + 1) % ring.length];
    return [(ax + bx) / 2, (ay + by) / 2];
  };
  const curves = ring.map((_, index) => {
    const next = (index + 1) % ring.length;
    return `Q${place(ring[next])} ${place(middle(next))}`;
  });
  return `M${place(middle(0))}${curves.join('')}Z`;
}

function short(value: number): string {
  return String(Number(value.toFixed(DECIMALS)));
}

/** All strokes as one path, px of the sheet. */
export function penPath({ strokes, pen }: PenDrawing): Path {
  return strokes.flatMap((stroke) => {
    const read = readPath(ringPath(strokeRing(stroke, pen)));
    return read.ok ? read.value : [];
  });
}

/** All strokes as one plain SVG, cut to what they cover. */
export function penSvg({ strokes, pen }: PenDrawing): Result<string> {
  const rings = strokes.map((stroke) => strokeRing(stroke, pen));
  const box = boxOf(rings.flat());
  if (!box) return failure('Expected at least one stroke, found an empty sheet.');
  const path = rings.map((ring) => ringPath(ring, [-box.x, -box.y])).join('');
  return success(filledSvg({ width: box.width, height: box.height }, path));
}

function boxOf(points: readonly Place[]): Box | null {
  if (points.length === 0) return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  const [x, y] = [Math.floor(left), Math.floor(top)];
  return {
    x,
    y,
    width: Math.max(1, Math.ceil(right) - x),
    height: Math.max(1, Math.ceil(bottom) - y),
  };
}
