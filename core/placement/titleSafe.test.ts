import { expect, it } from 'vitest';
import { ACTION_SAFE, safeBox, TITLE_SAFE } from './titleSafe.ts';

it('leaves the same share free on opposite sides', () => {
  // Table of the recommendation for 1920 × 1080: 10 % and 7 % of each side, halved.
  const title = safeBox({ width: 1_920, height: 1_080 }, TITLE_SAFE);
  expect([title.x, title.y].map(Math.round)).toEqual([96, 54]);
  expect([title.width, title.height]).toEqual([1_728, 972]);
  const action = safeBox({ width: 1_920, height: 1_080 }, ACTION_SAFE);
  expect(action.x).toBeCloseTo(67.2);
  expect(action.y).toBeCloseTo(37.8);
});
