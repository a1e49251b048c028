import { expect, it } from 'vitest';
import type { Copy } from './placeMark.ts';
import { marksTouch } from './touching.ts';

const at = (x: number, y: number): Copy => ({
  ...{ box: { x, y, width: 10, height: 10 }, size: { width: 10, height: 10 }, rotation: 0 },
});

it('marks touch where copies of two of them overlap', () => {
  expect(marksTouch([[at(0, 0)], [at(5, 5)]])).toBe(true);
  expect(marksTouch([[at(0, 0)], [at(50, 0)], [at(90, 0), at(52, 8)]])).toBe(true);
});

it('neither beside each other nor by copies of their own', () => {
  expect(marksTouch([[at(0, 0)], [at(10, 0)]])).toBe(false);
  expect(marksTouch([[at(0, 0), at(5, 5)]])).toBe(false);
  expect(marksTouch([[], [at(0, 0)]])).toBe(false);
});
