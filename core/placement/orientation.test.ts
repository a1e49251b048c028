import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { storedBox, storedPixels, turnedSize, uprightBox, uprightPixels } from './orientation.ts';

const orientation = fc.integer({ min: 1, max: 8 });
const box = fc.record({
  x: fc.integer({ min: 0, max: 40 }),
  y: fc.integer({ min: 0, max: 40 }),
  width: fc.integer({ min: 1, max: 20 }),
  height: fc.integer({ min: 1, max: 20 }),
});

/** A small photo whose pixels count up. */
function counted(width: number, height: number) {
  const data = Uint8ClampedArray.from({ length: width * height * 3 }, (_, at) =>
    Math.floor(at / 3),
  );
  return { data, width, height, channels: 3 as const };
}
const rows = ({ data, width }: { data: Uint8ClampedArray; width: number }) => {
  const values = [...data].filter((_, at) => at % 3 === 0);
  return Array.from({ length: values.length / width }, (_, row) =>
    values.slice(row * width, (row + 1) * width).join(' '),
  );
};

describe('orientation', () => {
  // As photos of the standard's eight values are turned by any viewer: stored rows are 0 1 2 / 3 4 5.
  it.each([
    [1, ['0 1 2', '3 4 5']],
    [2, ['2 1 0', '5 4 3']],
    [3, ['5 4 3', '2 1 0']],
    [4, ['3 4 5', '0 1 2']],
    [5, ['0 3', '1 4', '2 5']],
    [6, ['3 0', '4 1', '5 2']],
    [7, ['5 2', '4 1', '3 0']],
    [8, ['2 5', '1 4', '0 3']],
  ])('%i is turned upright', (value, expected) => {
    expect(rows(uprightPixels(counted(3, 2), value))).toEqual(expected);
  });

  it('there and back is where it was', () => {
    const stored = { width: 60, height: 60 };
    fc.assert(
      fc.property(orientation, box, (value, upright) => {
        expect(uprightBox(storedBox(upright, stored, value), stored, value)).toEqual(upright);
        const pixels = counted(upright.width, upright.height);
        expect(storedPixels(uprightPixels(pixels, value), value)).toEqual(pixels);
      }),
    );
  });

  it('takes a value that is none for upright', () => {
    expect(turnedSize({ width: 3, height: 2 }, 9)).toEqual({ width: 3, height: 2 });
    expect(turnedSize({ width: 3, height: 2 }, 6)).toEqual({ width: 2, height: 3 });
  });
});
