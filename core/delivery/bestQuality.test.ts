import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bestQuality, LEAST_QUALITY, MOST_QUALITY } from './bestQuality.ts';

/** Bytes that grow with quality, as steeply as `doubling` says. */
const sizes =
  (base: number, doubling: number) =>
  (quality: number): number =>
    Math.round(base * 2 ** ((quality - 60) / doubling));

async function found(maxBytes: number, bytesAt: (quality: number) => number) {
  let tries = 0;
  const result = await bestQuality(maxBytes, (quality) => {
    tries++;
    return Promise.resolve({ bytes: bytesAt(quality) });
  });
  return { ...result, tries };
}

describe('the best quality within a limit of bytes', () => {
  it('is the highest whose file fits, whatever the photo', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 20_000, max: 9_000_000 }),
        fc.integer({ min: 4, max: 40 }),
        fc.integer({ min: 10_000, max: 9_000_000 }),
        async (base, doubling, maxBytes) => {
          const bytesAt = sizes(base, doubling);
          const { quality, fits, file, tries } = await found(maxBytes, bytesAt);
          expect(file.bytes).toBe(bytesAt(quality));
          expect(fits).toBe(bytesAt(LEAST_QUALITY) <= maxBytes);
          if (fits && quality < MOST_QUALITY) {
            expect(bytesAt(quality)).toBeLessThanOrEqual(maxBytes);
            expect(bytesAt(quality + 1)).toBeGreaterThan(maxBytes);
          }
          if (!fits) expect(quality).toBe(LEAST_QUALITY);
          expect(tries).toBeLessThanOrEqual(11);
        },
      ),
    );
  });

  it('is found in few tries on what photos are like', async () => {
    for (const maxBytes of [200_000, 500_000, 900_000]) {
      expect((await found(maxBytes, sizes(300_000, 13))).tries).toBeLessThanOrEqual(5);
    }
  });
});
