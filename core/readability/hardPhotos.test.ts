import { expect, it } from 'vitest';
import { hardPhotos, type HardFacts } from './hardPhotos.ts';

const facts = (id: number, aspect: number, lightness: number, bustle: number): HardFacts => ({
  ...{ id, aspect, lightness, bustle },
});
const BATCH = [
  facts(1, 1.5, 50, 5),
  facts(2, 3.2, 40, 5),
  facts(3, 0.6, 45, 5),
  facts(4, 1.5, 97, 2),
  facts(5, 1.5, 3, 1),
  facts(6, 1.5, 55, 30),
  facts(7, 2, 90, 20),
];

it('finds the five extremes, each photo once', () => {
  expect(hardPhotos(BATCH).map(({ kind, id }) => [kind, id])).toEqual([
    ['widest', 2],
    ['tallest', 3],
    ['brightest', 4],
    ['darkest', 5],
    ['busiest', 6],
  ]);
  // The widest is the brightest as well: the next bright one stands for that.
  const both = BATCH.map((some) => (some.id === 2 ? { ...some, lightness: 99 } : some));
  expect(hardPhotos(both)[2].id).toBe(4);
});

it('keeps what was pinned, and leaves it out elsewhere', () => {
  const found = hardPhotos(BATCH, { widest: 4, busiest: 99 });
  expect(found[0]).toEqual({ kind: 'widest', id: 4, isPinned: true });
  expect(found[2].id).toBe(7);
  expect(found[4]).toEqual({ kind: 'busiest', id: 6, isPinned: false });
});

it('knows shapes where nothing else is known', () => {
  const unknown = BATCH.map(({ id, aspect }) => facts(id, aspect, NaN, NaN));
  expect(hardPhotos(unknown).map(({ id }) => id)).toEqual([2, 3, 1, 4, 5]);
});

it('is content with small batches', () => {
  expect(hardPhotos([])).toEqual([]);
  expect(hardPhotos(BATCH.slice(0, 2)).map(({ id }) => id)).toEqual([2, 1]);
});
