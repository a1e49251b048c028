import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  composed,
  inverted,
  isConvex,
  mapped,
  rotation,
  unitSquareTo,
  type Quad,
} from './homography.ts';

const quad: Quad = [
  { x: 12, y: 8 },
  { x: 96, y: 15 },
  { x: 88, y: 120 },
  { x: 5, y: 101 },
];
const UNIT = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

describe('unitSquareTo', () => {
  it('takes corners to corners', () => {
    UNIT.forEach((corner, index) => {
      const point = mapped(unitSquareTo(quad), corner);
      expect(point.x).toBeCloseTo(quad[index].x, 9);
      expect(point.y).toBeCloseTo(quad[index].y, 9);
    });
  });

  it('keeps straight lines straight: the diagonals meet where the square’s do', () => {
    const middle = mapped(unitSquareTo(quad), { x: 0.5, y: 0.5 });
    const [a, b, c, d] = quad;
    const cross = (p: typeof a, q: typeof a, r: typeof a) =>
      (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
    expect(cross(a, c, middle)).toBeCloseTo(0, 6);
    expect(cross(b, d, middle)).toBeCloseTo(0, 6);
  });
});

describe('inverted', () => {
  it('undoes a map', () => {
    const there = unitSquareTo(quad);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (x, y) => {
          const back = mapped(composed(inverted(there), there), { x, y });
          expect(back.x).toBeCloseTo(x, 6);
          expect(back.y).toBeCloseTo(y, 6);
        },
      ),
      { seed: 4 },
    );
  });
});

it('turns clockwise with y downwards', () => {
  const { x, y } = mapped(rotation(Math.PI / 2), { x: 1, y: 0 });
  expect(x).toBeCloseTo(0, 9);
  expect(y).toBeCloseTo(1, 9);
});

it('knows a dent and a crossing from a sheet', () => {
  expect(isConvex(quad)).toBe(true);
  expect(isConvex([quad[0], quad[2], quad[1], quad[3]])).toBe(false);
  expect(isConvex([quad[0], { x: 20, y: 20 }, quad[2], quad[3]])).toBe(false);
});
