import { describe, expect, it } from 'vitest';
import { filledOutlines } from './filledOutlines.ts';
import { pathData, type Outline } from './outline.ts';
import type { Coverage } from './plane.ts';
import { traced } from './traced.ts';

/** A straight side as the cubic curve it is. */
function side(from: readonly [number, number], to: readonly [number, number]) {
  const at = (share: number, axis: 0 | 1): number => from[axis] + (to[axis] - from[axis]) * share;
  return [at(1 / 3, 0), at(1 / 3, 1), at(2 / 3, 0), at(2 / 3, 1), to[0], to[1]] as const;
}

function polygon(...points: readonly (readonly [number, number])[]): Outline {
  return {
    start: points[0],
    curves: points.map((point, index) => side(point, points[(index + 1) % points.length])),
  };
}

const total = ({ data }: Coverage): number => data.reduce((sum, value) => sum + value, 0) / 255;

describe('filledOutlines', () => {
  it('covers parts of pixels by their exact area', () => {
    const box = polygon([1.25, 1.5], [4.5, 1.5], [4.5, 3.75], [1.25, 3.75]);
    const { data } = filledOutlines([box], { width: 6, height: 5 });
    const share = (x: number, y: number): number => data[y * 6 + x] / 255;
    expect(share(1, 1)).toBeCloseTo(0.75 * 0.5, 2);
    expect(share(2, 2)).toBe(1);
    expect(share(4, 3)).toBeCloseTo(0.5 * 0.75, 2);
    expect(share(5, 2)).toBe(0);
    expect(share(0, 2)).toBe(0);
  });

  it('is right for slanted sides and outside of the picture', () => {
    const triangle = polygon([-4, -3], [11, 2], [3, 14]);
    const { data } = filledOutlines([triangle], { width: 8, height: 9 });
    const within = (x: number, y: number): boolean =>
      [
        [-4, -3, 11, 2],
        [11, 2, 3, 14],
        [3, 14, -4, -3],
      ].every(([ax, ay, bx, by]) => (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0);
    for (let y = 0; y < 9; y++) {
      for (let x = 0; x < 8; x++) {
        let hits = 0;
        for (let dy = 0; dy < 16; dy++) {
          for (let dx = 0; dx < 16; dx++) {
            if (within(x + (dx + 0.5) / 16, y + (dy + 0.5) / 16)) hits++;
          }
        }
        expect(Math.abs(data[y * 8 + x] / 255 - hits / 256)).toBeLessThan(0.03);
      }
    }
  });

  it('leaves holes that run the other way round', () => {
    const outer = polygon([1, 1], [9, 1], [9, 9], [1, 9]);
    const hole = polygon([3, 3], [3, 7], [7, 7], [7, 3]);
    expect(total(filledOutlines([outer, hole], { width: 10, height: 10 }))).toBeCloseTo(48, 0);
  });
});

/** Exact coverage of a shape given by its signed distance, px, negative inside. */
function drawn(width: number, height: number, distance: (x: number, y: number) => number) {
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const covered = Math.min(1, Math.max(0, 0.5 - distance(x + 0.5, y + 0.5)));
      data[y * width + x] = Math.round(covered * 255);
    }
  }
  return { data, width, height } satisfies Coverage;
}

const ring = drawn(120, 90, (x, y) => Math.abs(Math.hypot(x - 60, y - 45) - 30) - 4);
const hairline = drawn(200, 60, (x, y) => Math.abs(y - 30 - 6 * Math.sin(x / 20)) - 0.9);
const square = drawn(80, 80, (x, y) => Math.max(Math.abs(x - 40), Math.abs(y - 40)) - 25);

function meanDifference(a: Coverage, b: Coverage): number {
  let [sum, count] = [0, 0];
  a.data.forEach((value, at) => {
    if (value === 0 && b.data[at] === 0) return;
    sum += Math.abs(value - b.data[at]) / 255;
    count++;
  });
  return sum / count;
}

describe('traced', () => {
  it.each<[string, Coverage, number]>([
    ['a ring', ring, 0.02],
    ['a hairline of 1.8 px', hairline, 0.1],
    ['a square', square, 0.02],
  ])('%s comes back as it was', (_, plane, limit) => {
    const { outlines } = traced(plane, 0);
    expect(meanDifference(plane, filledOutlines(outlines, plane))).toBeLessThan(limit);
  });

  it('draws a ring as two outlines of few curves', () => {
    const { outlines } = traced(ring, 0.35);
    expect(outlines).toHaveLength(2);
    for (const outline of outlines) expect(outline.curves.length).toBeLessThan(16);
  });

  it('holds corners where a smooth curve would round them off', () => {
    const { outlines } = traced(square, 0.35);
    const filled = filledOutlines(outlines, square);
    expect(filled.data[16 * 80 + 16]).toBeGreaterThan(100);
  });

  it('takes tremor away when asked to', () => {
    const shaky = drawn(300, 60, (x, y) => Math.abs(y - 30 - 1.2 * Math.sin(x * 1.1)) - 8);
    const curves = (smoothing: number): number =>
      traced(shaky, smoothing).outlines.reduce((sum, outline) => sum + outline.curves.length, 0);
    expect(curves(1)).toBeLessThan(curves(0) / 3);
  });

  it('ends each curve where the next begins', () => {
    for (const { start, curves } of traced(ring, 0.5).outlines) {
      const [, , , , x, y] = curves[curves.length - 1];
      expect(Math.hypot(x - start[0], y - start[1])).toBeLessThan(1e-6);
    }
  });
});

it('writes paths that a browser reads, with short numbers', () => {
  const path = pathData([polygon([0, 0], [3.333_333, 0], [0, 3])]);
  expect(path).toMatch(/^M0 0C1\.11 0 2\.22 0 3\.33 0C[\d. ]+C[\d. ]+Z$/);
});
