import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { IDENTITY, mapped, matrixOf, multiplied } from './matrix.ts';
import { outlinesOf, pathText, readPath, transformedPath, type Path } from './path.ts';
import { grownBox, pathBox, unionBox } from './pathBox.ts';
import { agreeingWith, reversedPath, turningSense } from './reversed.ts';

const path = (d: string): Path => {
  const read = readPath(d);
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};

describe('readPath', () => {
  it.each([
    ['M0 0L10 0L10 5Z', 'M0 0L10 0L10 5Z'],
    ['M1,2 3,4 5-6Z', 'M1 2L3 4L5 -6Z'],
    ['M0 0H4V3', 'M0 0L4 0L4 3'],
    ['M0 0Q1 2 3 4 5 6 7 8', 'M0 0Q1 2 3 4Q5 6 7 8'],
    ['M.5.5C1 1 2 2 3e1 3', 'M0.5 0.5C1 1 2 2 30 3'],
    ['', ''],
  ])('reads %s', (given, wanted) => {
    expect(pathText(path(given))).toBe(wanted);
  });

  it.each([
    ['m0 0', 'found m'],
    ['M0 0A1 1 0 0 1 2 2', 'found A'],
    ['M0 0L1', 'after L, found 1'],
  ])('says what it cannot read in %s', (given, reason) => {
    const read = readPath(given);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.reason).toContain(reason);
  });
});

describe('matrices', () => {
  it('size first, then turn, then move', () => {
    const [x, y] = mapped(matrixOf(100, 50, 90, 2, 3), 10, 1);
    expect(x).toBeCloseTo(97);
    expect(y).toBeCloseTo(70);
  });

  it('apply the inner one first', () => {
    const outer = matrixOf(5, 0, 30, 1, 2);
    const inner = matrixOf(-3, 4, 70, 0.5, 1);
    const [ix, iy] = mapped(inner, 7, -2);
    expect(mapped(multiplied(outer, inner), 7, -2)).toEqual(
      mapped(outer, ix, iy).map((value) => expect.closeTo(value, 9)),
    );
    expect(multiplied(IDENTITY, inner)).toEqual([...inner]);
  });
});

describe('pathBox', () => {
  it('knows where curves are widest', () => {
    // A quarter arc's control point lies outside of what is drawn.
    expect(pathBox(path('M0 0Q50 100 100 0'))).toEqual({ x: 0, y: 0, width: 100, height: 50 });
    const cubic = pathBox(path('M0 0C0 40 100 40 100 0'));
    expect(cubic?.height).toBeCloseTo(30);
  });

  it('holds every point of a curve and touches one on each side', () => {
    const number = fc.double({ min: -100, max: 100, noNaN: true });
    fc.assert(
      fc.property(fc.array(number, { minLength: 8, maxLength: 8 }), (n) => {
        const box = pathBox([
          { op: 'M', at: n.slice(0, 2) },
          { op: 'C', at: n.slice(2) },
        ]);
        if (!box) throw new Error('no box');
        const seen = [Infinity, -Infinity, Infinity, -Infinity];
        for (let step = 0; step <= 400; step++) {
          const t = step / 400;
          const point = (axis: number): number =>
            (1 - t) ** 3 * n[axis] +
            3 * (1 - t) ** 2 * t * n[axis + 2] +
            3 * (1 - t) * t * t * n[axis + 4] +
            t ** 3 * n[axis + 6];
          const [x, y] = [point(0), point(1)];
          seen[0] = Math.min(seen[0], x);
          seen[1] = Math.max(seen[1], x);
          seen[2] = Math.min(seen[2], y);
          seen[3] = Math.max(seen[3], y);
        }
        expect(box.x).toBeLessThanOrEqual(seen[0] + 1e-6);
        expect(box.x).toBeGreaterThan(seen[0] - 0.1);
        expect(box.x + box.width).toBeGreaterThanOrEqual(seen[1] - 1e-6);
        expect(box.x + box.width).toBeLessThan(seen[1] + 0.1);
        expect(box.y).toBeGreaterThan(seen[2] - 0.1);
        expect(box.y + box.height).toBeLessThan(seen[3] + 0.1);
      }),
      { seed: 7, numRuns: 200 },
    );
  });

  it('is nothing for nothing, and unites what there is', () => {
    expect(pathBox([])).toBeNull();
    expect(unionBox([null, null])).toBeNull();
    const box = { x: 0, y: 0, width: 4, height: 4 };
    expect(unionBox([box, null, { x: 10, y: -2, width: 1, height: 1 }])).toEqual({
      ...{ x: 0, y: -2, width: 11, height: 6 },
    });
    expect(grownBox(box, 1)).toEqual({ x: -1, y: -1, width: 6, height: 6 });
  });
});

describe('outlines', () => {
  it('closes what was left open and keeps quadratic curves in shape', () => {
    const [outline] = outlinesOf(path('M0 0Q50 100 100 0'));
    expect(outline.curves).toHaveLength(2);
    expect(outline.curves[0][1]).toBeCloseTo(66.67, 1);
    expect(outline.curves[1].slice(-2)).toEqual([0, 0]);
  });

  it('starts anew after each ring', () => {
    expect(outlinesOf(path('M0 0L1 0L1 1ZM5 5L6 5L6 6Z'))).toHaveLength(2);
  });
});

describe('the way a path runs', () => {
  const clockwise = path('M0 0L10 0L10 10L0 10Z');

  it('is told and turned round', () => {
    expect(turningSense(clockwise)).toBe(1);
    expect(turningSense(reversedPath(clockwise))).toBe(-1);
    expect(pathBox(reversedPath(clockwise))).toEqual(pathBox(clockwise));
  });

  it('turns curves point by point', () => {
    const curve = path('M0 0C1 2 3 4 5 6Q7 8 9 10Z');
    expect(pathText(reversedPath(curve))).toBe('M9 10Q7 8 5 6C3 4 1 2 0 0Z');
  });

  it('is made to agree, so that nothing is cut out where two meet', () => {
    const other = reversedPath(transformedPath(clockwise, matrixOf(5, 5, 0, 1, 1)));
    expect(turningSense(agreeingWith(other, clockwise))).toBe(1);
    expect(agreeingWith(clockwise, clockwise)).toBe(clockwise);
  });
});
