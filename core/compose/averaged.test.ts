import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Raster } from '../pixels.ts';
import { averaged } from './averaged.ts';

/** The mean of each square, worked out sample by sample. */
function plainly({ data, width, height }: Raster, factor: number): number[] {
  const means: number[] = [];
  for (let y = 0; y < height; y += factor) {
    for (let x = 0; x < width; x += factor) {
      const sums = [0, 0, 0, 0];
      for (let at = 0; at < factor * factor; at++) {
        const place = ((y + Math.floor(at / factor)) * width + x + (at % factor)) * 4;
        const alpha = data[place + 3];
        [0, 1, 2].forEach((c) => (sums[c] += data[place + c] * alpha));
        sums[3] += alpha;
      }
      const colours = sums.slice(0, 3).map((sum) => (sums[3] === 0 ? 0 : sum / sums[3]));
      means.push(...colours, sums[3] / (factor * factor));
    }
  }
  return [...Uint8ClampedArray.from(means)];
}

const rasters = fc
  .record({
    factor: fc.integer({ min: 2, max: 4 }),
    across: fc.integer({ min: 1, max: 5 }),
    down: fc.integer({ min: 1, max: 5 }),
    // Mostly empty or black, as marks are.
    pool: fc.array(fc.constantFrom(0, 0, 0, 255, 7, 128, 254), { minLength: 3, maxLength: 40 }),
  })
  .map(({ factor, across, down, pool }) => {
    const size = { width: across * factor, height: down * factor };
    const samples = Uint8ClampedArray.from(
      { length: size.width * size.height * 4 },
      (_, at) => pool[at % pool.length],
    );
    return { factor, raster: { ...size, data: samples, channels: 4 } satisfies Raster };
  });

describe('averaged', () => {
  it('makes each pixel the mean of its square, colours weighed by alpha', () => {
    fc.assert(
      fc.property(rasters, ({ factor, raster }) => {
        const { data, width, height } = averaged(raster, factor);
        expect({ width, height }).toEqual({
          width: raster.width / factor,
          height: raster.height / factor,
        });
        expect([...data]).toEqual(plainly(raster, factor));
      }),
    );
  });

  it('reads samples that begin anywhere in their memory', () => {
    const bytes = new Uint8ClampedArray(17).fill(200);
    const raster: Raster = { data: bytes.subarray(1), width: 2, height: 2, channels: 4 };
    expect([...averaged(raster, 2).data]).toEqual([200, 200, 200, 200]);
  });

  it('gives a raster of its size back as it is', () => {
    const raster: Raster = { data: new Uint8ClampedArray(4), width: 1, height: 1, channels: 4 };
    expect(averaged(raster, 1)).toBe(raster);
  });
});
