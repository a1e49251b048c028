import { expect, it } from 'vitest';
import { closeUp } from './closeUp.ts';

const frame = { width: 2_000, height: 1_000 };

it('is round the mark, in the shape of the picture', () => {
  const mark = { x: 900, y: 450, width: 200, height: 100 };
  const seen = closeUp(frame, mark, { width: 100, height: 100 });
  expect(seen).toEqual({ x: 856, y: 356, width: 288, height: 288 });
});

it('stays inside the frame, at a corner and where the mark fills it', () => {
  const shape = { width: 160, height: 100 };
  const corner = closeUp(frame, { x: 1_790, y: 940, width: 200, height: 50 }, shape);
  expect(corner.x + corner.width).toBe(2_000);
  expect(corner.y + corner.height).toBe(1_000);
  const whole = closeUp(frame, { x: -100, y: -50, width: 2_200, height: 1_100 }, shape);
  expect(whole).toEqual({ x: 200, y: 0, width: 1_600, height: 1_000 });
});
