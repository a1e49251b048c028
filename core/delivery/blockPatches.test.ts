import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockPatches } from './blockPatches.ts';

const PHOTO = { width: 1_003, height: 701 };
const BLOCK = { width: 16, height: 16 };

describe('patches of blocks', () => {
  it('are the blocks a box touches, cut off at the edges', () => {
    const box = { x: 100.4, y: 33, width: 30, height: 15 };
    expect(blockPatches([box], PHOTO, BLOCK)).toEqual([{ x: 96, y: 32, width: 48, height: 16 }]);
    const last = { x: 990, y: 690, width: 100, height: 100 };
    expect(blockPatches([last], PHOTO, BLOCK)).toEqual([{ x: 976, y: 688, width: 27, height: 13 }]);
    expect(blockPatches([{ x: -20, y: -9, width: 15, height: 5 }], PHOTO, BLOCK)).toEqual([]);
  });

  it('hold all boxes, do not overlap, and are few', () => {
    const box = fc.record({
      x: fc.integer({ min: 0, max: 1_000 }),
      y: fc.integer({ min: 0, max: 700 }),
      width: fc.integer({ min: 1, max: 300 }),
      height: fc.integer({ min: 1, max: 300 }),
    });
    fc.assert(
      fc.property(fc.array(box, { maxLength: 40 }), (boxes) => {
        const patches = blockPatches(boxes, PHOTO, BLOCK);
        expect(patches.length).toBeLessThanOrEqual(12);
        for (const { x, y, width, height } of patches) {
          expect([x % 16, y % 16]).toEqual([0, 0]);
          expect(width % 16 === 0 || x + width === PHOTO.width).toBe(true);
          expect(height % 16 === 0 || y + height === PHOTO.height).toBe(true);
        }
        for (const wanted of boxes) {
          const held = patches.some(
            (patch) =>
              patch.x <= wanted.x &&
              patch.y <= wanted.y &&
              patch.x + patch.width >= Math.min(PHOTO.width, wanted.x + wanted.width) &&
              patch.y + patch.height >= Math.min(PHOTO.height, wanted.y + wanted.height),
          );
          expect(held).toBe(true);
        }
      }),
    );
  });
});
