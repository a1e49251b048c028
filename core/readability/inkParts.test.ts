import { describe, expect, it } from 'vitest';
import type { Coverage } from '../ink/plane.ts';
import { inkParts } from './inkParts.ts';

/** Ink in rectangles: x, y, width, height. */
function ink(
  width: number,
  height: number,
  ...boxes: [number, number, number, number][]
): Coverage {
  const data = new Uint8Array(width * height);
  for (const [left, top, wide, high] of boxes) {
    for (let y = top; y < top + high; y++) {
      data.fill(255, y * width + left, y * width + left + wide);
    }
  }
  return { data, width, height };
}

function partAt(core: Coverage, longer: number, x: number, y: number): number {
  return inkParts(core, longer).labels[y * core.width + x];
}

describe('inkParts', () => {
  it('takes an emblem and the words under it apart', () => {
    const core = ink(100, 100, [20, 0, 60, 60], [30, 80, 40, 8]);
    expect(inkParts(core, 100).count).toBe(2);
    expect(partAt(core, 100, 30, 30)).not.toBe(partAt(core, 100, 40, 83));
  });

  it('keeps ink together that is within four hundredths of the longer side', () => {
    const near = ink(100, 40, [0, 0, 40, 40], [44, 0, 40, 40]);
    const far = ink(100, 40, [0, 0, 40, 40], [46, 0, 40, 40]);
    expect(inkParts(near, 100).count).toBe(1);
    expect(inkParts(far, 100).count).toBe(2);
  });

  it('takes touching at a corner for one piece', () => {
    const core = ink(100, 100, [0, 0, 40, 40], [42, 42, 40, 40]);
    expect(inkParts(core, 100).count).toBe(1);
  });

  it('gives a dot to the nearest of the larger parts', () => {
    const core = ink(200, 60, [0, 0, 60, 60], [120, 0, 80, 60], [112, 30, 2, 2]);
    expect(inkParts(core, 100).count).toBe(2);
    expect(partAt(core, 100, 112, 30)).toBe(partAt(core, 100, 150, 30));
  });

  it('makes one part of many small letters that stand apart', () => {
    const letters = Array.from({ length: 20 }, (_, at): [number, number, number, number] => [
      ...([at * 10, 190, 3, 6] as const),
    ]);
    const core = ink(200, 200, [50, 0, 100, 100], ...letters);
    const { count } = inkParts(core, 200);
    expect(count).toBeGreaterThan(1);
    expect(count).toBeLessThan(6);
    expect(partAt(core, 200, 60, 50)).not.toBe(partAt(core, 200, 101, 192));
  });

  it('counts neither what is nearly transparent nor what is not there', () => {
    const core = ink(50, 50, [10, 10, 20, 20]);
    core.data[0] = 127;
    expect(inkParts(core, 50)).toMatchObject({ count: 1 });
    expect(partAt(core, 50, 0, 0)).toBe(0);
    expect(inkParts(ink(8, 8), 8).count).toBe(0);
  });

  it('does not go astray in a texture', () => {
    const data = Uint8Array.from({ length: 900 * 900 }, (_, at) =>
      at % 5 === 0 && Math.floor(at / 900) % 5 === 0 ? 255 : 0,
    );
    expect(inkParts({ data, width: 900, height: 900 }, 40).count).toBe(1);
  });
});
