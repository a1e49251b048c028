import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { HandingStore, STORE_REST_MS } from './store.ts';

const SOURCE = { path: '/photos/A.JPG', bytes: 10, modifiedMs: 1 };

let isAway: boolean;
let sizes: Map<string, number>;
let swept: string[];
let store: HandingStore;
const orAway = <T>(value: T): Promise<T> =>
  isAway ? Promise.reject(new Error('away')) : Promise.resolve(value);
beforeEach(() => {
  vi.useFakeTimers();
  [isAway, sizes, swept] = [false, new Map(), []];
  store = new HandingStore({
    put: (key) => orAway(void sizes.set(key, SOURCE.bytes)),
    size: (key) => orAway(sizes.get(key) ?? null),
    get: () => orAway(null),
    remove: (key) => orAway(void sizes.delete(key)),
    removeBelow: (start) => orAway(null).then(() => void swept.push(start)),
  });
});
afterEach(() => void vi.useRealTimers());

function placeOf(part: object = {}) {
  const place = store.sourceAt('w1-1-1', { ...SOURCE, ...part });
  if (!place) throw new Error('It rests.');
  return place;
}

it('has another place for each version of a photo, with its ending, below the stem of its pass', () => {
  expect(placeOf().path).toMatch(/^w1-1-1\/source-[0-9a-f]{16}\.jpg$/);
  expect(placeOf()).toEqual(placeOf());
  expect(placeOf({ modifiedMs: 2 })).not.toEqual(placeOf());
});

it('is given a photo once', async () => {
  await store.offer(placeOf(), SOURCE);
  sizes.set(placeOf().path, 4);
  await store.offer(placeOf(), SOURCE);
  expect([...sizes.values()]).toEqual([10]);
  await store.takeBack(placeOf());
  expect(sizes.size).toBe(0);
});

it('rests after it took none, and is tried again', async () => {
  isAway = true;
  await expect(store.offer(placeOf(), SOURCE)).rejects.toThrow('away');
  expect(store.sourceAt('w1-1-1', SOURCE)).toBeNull();
  isAway = false;
  vi.advanceTimersByTime(STORE_REST_MS + 1);
  await store.offer(placeOf(), SOURCE);
  expect(sizes.size).toBe(1);
});

it('sweeps later what it could not while it was away', async () => {
  isAway = true;
  await expect(store.sweep('w1-1-')).rejects.toThrow('away');
  isAway = false;
  await store.sweep('w1-2-');
  expect(swept).toEqual(['w1-1-', 'w1-2-']);
  await store.sweep('w1-3-');
  expect(swept).toEqual(['w1-1-', 'w1-2-', 'w1-3-']);
});
