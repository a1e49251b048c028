import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Canvas } from '../pixels.ts';
import {
  canvasCells,
  changedCells,
  coarseGrid,
  comparedBox,
  comparedCells,
} from './coarseCells.ts';

const canvas = (width: number, height: number, level: (x: number, y: number) => number): Canvas => {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let at = 0; at < width * height; at++) {
    data.fill(level(at % width, Math.floor(at / width)), at * 3, at * 3 + 3);
  }
  return { data, width, height, channels: 3, depth: 8, space: 'srgb' };
};

describe('coarse cells', () => {
  it('are of 8 px, of large photos only some, of small ones fewer', () => {
    expect(coarseGrid({ width: 2_048, height: 1_365 })).toEqual({
      ...{ px: 8, cells: { width: 256, height: 170 } },
      ...{ step: 2, compared: { width: 128, height: 85 } },
    });
    const large = coarseGrid({ width: 6_000, height: 4_000 });
    expect(large).toMatchObject({ cells: { width: 750, height: 500 }, step: 5 });
    expect(large.compared).toEqual({ width: 150, height: 100 });
    expect(coarseGrid({ width: 60, height: 101 })).toMatchObject({
      ...{ px: 4, cells: { width: 15, height: 25 }, step: 1 },
    });
  });

  it('never are larger than the frame', () => {
    const px = (width: number, height: number) => coarseGrid({ width, height }).px;
    expect([px(9, 8), px(9_000, 3), px(9_000, 1), px(7, 9_000)]).toEqual([1, 2, 1, 4]);
  });

  it('leave out what is less than a cell', () => {
    const cells = canvasCells(canvas(1_031, 1_030, (x, y) => (x < 1_024 && y < 1_024 ? 90 : 250)));
    expect([...new Set(cells.data)]).toEqual([90]);
    const grid = coarseGrid({ width: 6_000, height: 4_000 });
    const box = comparedBox({ x: 400, y: 40, width: 80, height: 20 }, grid);
    expect(box).toEqual({ x: 10, y: 1, width: 2, height: 0.5 });
  });

  it('are the means of their pixels', () => {
    const cells = canvasCells(canvas(1_024, 8, (x) => (x % 8 < 4 ? 100 : 200)));
    expect(cells).toMatchObject({ width: 128, height: 1 });
    expect([...new Set(cells.data)]).toEqual([150]);
  });

  it('of a canvas that was drawn on are those of before, but where it was', () => {
    // Sizes that are no multiple of a cell, of which all, some and single pixels are compared.
    const size = fc.integer({ min: 1, max: 2_600 });
    const share = fc.double({ min: -0.2, max: 1.1, noNaN: true });
    fc.assert(
      fc.property(
        size,
        fc.integer({ min: 1, max: 300 }),
        share,
        share,
        share,
        (w, h, x, y, part) => {
          const photo = canvas(w, h, (column, row) => (column * 7 + row * 13) % 200);
          const before = canvasCells(photo);
          const box = {
            ...{ x: Math.round(x * w), y: Math.round(y * h) },
            ...{ width: Math.ceil(Math.abs(part) * w), height: Math.ceil(Math.abs(part) * h) },
          };
          for (let row = Math.max(0, box.y); row < Math.min(h, box.y + box.height); row++) {
            const [left, right] = [Math.max(0, box.x), Math.min(w, box.x + box.width)];
            if (left < right) photo.data.fill(255, (row * w + left) * 3, (row * w + right) * 3);
          }
          expect(changedCells(before, photo, [box]).data).toEqual(canvasCells(photo).data);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('stay as they are where a mark lies wholly beside the photo', () => {
    const photo = canvas(16, 16, (x, y) => x + y);
    const before = canvasCells(photo);
    for (const [x, y] of [
      [17, 0],
      [18, 15],
      [0, 18],
      [-9, 15],
      [15, -9],
    ]) {
      expect(changedCells(before, photo, [{ x, y, width: 5, height: 5 }])).toEqual(before);
    }
  });

  it('of 16 bits and of transparent photos are as a decoder shows them', () => {
    const deep = new Uint16Array(3).fill(40_000);
    const shape = { width: 1, height: 1, space: 'srgb' as const };
    expect([...canvasCells({ ...shape, data: deep, channels: 3, depth: 16 }).data]).toEqual([
      156, 156, 156,
    ]);
    const clear = Uint8ClampedArray.of(0, 0, 0, 51);
    expect([...canvasCells({ ...shape, data: clear, channels: 4, depth: 8 }).data]).toEqual([
      204, 204, 204,
    ]);
  });

  it('of a file are the same ones', () => {
    const frame = { width: 6_000, height: 40 };
    const { cells, step } = coarseGrid(frame);
    const data = Uint8ClampedArray.from(
      { length: cells.width * cells.height * 3 },
      (_, at) => Math.floor(at / 3) % cells.width,
    );
    const { data: some, width } = comparedCells({ data, ...cells, channels: 3 }, frame);
    expect([some[0], some[3]]).toEqual([0, step]);
    expect(width).toBe(Math.ceil(cells.width / step));
  });
});
