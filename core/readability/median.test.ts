import fc from 'fast-check';
import { expect, it } from 'vitest';
import { medianOf } from './median.ts';

const sortedMedian = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
};

it('is what putting all into order finds', () => {
  // Few different values: as in differences over a plain ground, most are alike.
  const few = fc.integer({ min: 0, max: 5 });
  const any = fc.double({ min: -100, max: 100, noNaN: true });
  const lists = fc.oneof(fc.array(few, { minLength: 1 }), fc.array(any, { minLength: 1 }));
  fc.assert(
    fc.property(lists, (values) => {
      expect(medianOf(Float64Array.from(values))).toBe(sortedMedian(values));
    }),
    { numRuns: 1_000 },
  );
});

it.each([
  ['rising', (at: number) => at],
  ['falling', (at: number) => -at],
  ['all alike', () => 7],
  ['up and down', (at: number) => Math.abs(at - 50_000)],
])('takes no longer where values are %s', (_, valueAt) => {
  const values = Array.from({ length: 100_001 }, (_none, at) => valueAt(at));
  expect(medianOf(Float64Array.from(values))).toBe(sortedMedian(values));
});
