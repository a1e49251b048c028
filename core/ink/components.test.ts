import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { componentsOf } from './components.ts';
import type { Coverage } from './plane.ts';

/** The plain way: flood each area in turn. */
function flooded({ data, width, height }: Coverage, low: number, diagonal: boolean): number[] {
  const seen = new Set<number>();
  const areas: number[] = [];
  for (let start = 0; start < data.length; start++) {
    if (seen.has(start) || data[start] < low) continue;
    const stack = [start];
    seen.add(start);
    let area = 0;
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      area++;
      const [x, y] = [at % width, Math.floor(at / width)];
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if (!diagonal && dx !== 0 && dy !== 0) continue;
          const [nx, ny] = [x + dx, y + dy];
          const next = ny * width + nx;
          if (nx < 0 || ny < 0 || nx >= width || ny >= height || seen.has(next)) continue;
          if (data[next] < low) continue;
          seen.add(next);
          stack.push(next);
        }
      }
    }
    areas.push(area);
  }
  return areas.sort((a, b) => a - b);
}

describe('componentsOf', () => {
  it.each([true, false])('finds the same areas as flooding does (diagonal %s)', (diagonal) => {
    const pictures = fc.array(fc.constantFrom(0, 0, 40, 255), { minLength: 96, maxLength: 96 });
    fc.assert(
      fc.property(pictures, (values) => {
        const plane = { data: Uint8Array.from(values), width: 12, height: 8 };
        const found = componentsOf(plane, 30, 255, diagonal).components;
        const areas = found.map(({ area }) => area).sort((a, b) => a - b);
        expect(areas).toEqual(flooded(plane, 30, diagonal));
      }),
      { seed: 11, numRuns: 300 },
    );
  });

  it('tells box, peak, mean and outline of a block', () => {
    const data = new Uint8Array(100);
    for (let y = 2; y < 6; y++) data.fill(y === 3 ? 200 : 100, y * 10 + 3, y * 10 + 8);
    const [block] = componentsOf({ data, width: 10, height: 10 }, 1, 255, true).components;
    expect(block.box).toEqual({ x: 3, y: 2, width: 5, height: 4 });
    expect([block.area, block.peak, block.mean]).toEqual([20, 200, 125]);
    expect(block.outline).toBeCloseTo((18 * Math.PI) / 4, 6);
  });

  it('counts the steps of an outline, also where rows overlap in part', () => {
    // Rows of 4 and 4 pixels, shifted by 2: 12 steps up and down, 4 sideways.
    const data = new Uint8Array(40);
    data.fill(255, 11, 15);
    data.fill(255, 23, 27);
    const [part] = componentsOf({ data, width: 10, height: 4 }, 1, 255, true).components;
    expect(part.outline).toBeCloseTo(((4 + 12) * Math.PI) / 4, 6);
  });
});
