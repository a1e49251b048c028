import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cleanCrop } from './cleanCrop.ts';
import type { Box } from './geometry.ts';

const GRID = 12;

/** Every rectangle of a small grid, tried one by one. */
function bySearch(boxes: readonly Box[]): number {
  let best = 0;
  for (let x0 = 0; x0 < GRID; x0++) {
    for (let x1 = x0 + 1; x1 <= GRID; x1++) {
      for (let y0 = 0; y0 < GRID; y0++) {
        for (let y1 = y0 + 1; y1 <= GRID; y1++) {
          const free = boxes.every(
            (box) =>
              box.x >= x1 || box.x + box.width <= x0 || box.y >= y1 || box.y + box.height <= y0,
          );
          if (free) best = Math.max(best, (x1 - x0) * (y1 - y0));
        }
      }
    }
  }
  return best / GRID ** 2;
}

describe('cleanCrop', () => {
  it('is the whole frame without a mark', () => {
    expect(cleanCrop({ width: 30, height: 20 }, []).share).toBe(1);
  });

  it('is the better of the strips beside one mark', () => {
    const box = { x: 70, y: 80, width: 25, height: 15 };
    const crop = cleanCrop({ width: 100, height: 100 }, [box]);
    expect(crop.share).toBeCloseTo(0.8, 9);
    expect(crop.box).toEqual({ x: 0, y: 0, width: 100, height: 80 });
  });

  it('counts a mark that lies partly or wholly outside only where it covers the frame', () => {
    const frame = { width: 100, height: 100 };
    expect(cleanCrop(frame, [{ x: -50, y: 0, width: 60, height: 100 }]).share).toBeCloseTo(0.9, 9);
    expect(cleanCrop(frame, [{ x: 200, y: 0, width: 60, height: 100 }]).share).toBe(1);
  });

  it('is nothing where the mark covers the frame', () => {
    expect(
      cleanCrop({ width: 9, height: 9 }, [{ x: -1, y: -1, width: 20, height: 20 }]).share,
    ).toBe(0);
  });

  it('agrees with a search of all rectangles', () => {
    const boxes = fc.array(
      fc.record({
        x: fc.integer({ min: -2, max: GRID }),
        y: fc.integer({ min: -2, max: GRID }),
        width: fc.integer({ min: 1, max: 5 }),
        height: fc.integer({ min: 1, max: 5 }),
      }),
      { maxLength: 9 },
    );
    fc.assert(
      fc.property(boxes, (some) => {
        expect(cleanCrop({ width: GRID, height: GRID }, some).share).toBeCloseTo(bySearch(some), 9);
      }),
      { seed: 4, numRuns: 250 },
    );
  });
});
