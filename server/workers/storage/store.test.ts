import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { SourceFile } from './passStorage.ts';
import { HandingStore, STORE_REST_MS } from './store.ts';

let folder: string;
let source: SourceFile;

let isAway: boolean;
let puts: number;
let sizes: Map<string, number>;
let swept: string[];
let store: HandingStore;
const orAway = <T>(value: T): Promise<T> =>
  isAway ? Promise.reject(new Error('away')) : Promise.resolve(value);
beforeEach(() => {
  vi.useFakeTimers();
  folder = mkdtempSync(join(tmpdir(), 'light-crest-store-'));
  source = { path: join(folder, 'A.JPG'), bytes: 10, modifiedMs: 1 };
  writeFileSync(source.path, 'ten bytes.');
  puts = 0;
  [isAway, sizes, swept] = [false, new Map(), []];
  store = new HandingStore({
    put: (key) => {
      puts++;
      return orAway(void sizes.set(key, source.bytes));
    },
    size: (key) => orAway(sizes.get(key) ?? null),
    get: () => orAway(null),
    remove: (key) => orAway(void sizes.delete(key)),
    removeBelow: (start) => orAway(null).then(() => void swept.push(start)),
  });
});
afterEach(() => {
  vi.useRealTimers();
  rmSync(folder, { recursive: true, force: true });
});

function placeOf(part: object = {}) {
  const place = store.sourceAt('w1-1-1', { ...source, ...part });
  if (!place) throw new Error('It rests.');
  return place;
}

it('has another place for each version of a photo, with its ending, below the stem of its pass', () => {
  expect(placeOf().path).toMatch(/^w1-1-1\/source-[0-9a-f]{16}\.jpg$/);
  expect(placeOf()).toEqual(placeOf());
  expect(placeOf({ modifiedMs: 2 })).not.toEqual(placeOf());
});

it('is given a photo once', async () => {
  await store.offer(placeOf(), source);
  sizes.set(placeOf().path, 4);
  await store.offer(placeOf(), source);
  expect([...sizes.values()]).toEqual([10]);
  await store.takeBack(placeOf());
  expect(sizes.size).toBe(0);
});

it('is given a photo once, too, where that is asked for again while it is on its way', async () => {
  const place = placeOf();
  await Promise.all([1, 2, 3].map(() => store.offer(place, source)));
  expect(puts).toBe(1);
});

it('does not rest for a photo that cannot be read', async () => {
  const place = placeOf();
  rmSync(source.path);
  await expect(store.offer(place, source)).rejects.toThrow('ENOENT');
  expect(store.problem).toBeNull();
  expect(store.sourceAt('w1-1-1', source)).not.toBeNull();
});

it('rests after it took none, and is tried again', async () => {
  isAway = true;
  await expect(store.offer(placeOf(), source)).rejects.toThrow('away');
  expect(store.sourceAt('w1-1-1', source)).toBeNull();
  expect(store.problem).toBe('away');
  isAway = false;
  vi.advanceTimersByTime(STORE_REST_MS + 1);
  await store.offer(placeOf(), source);
  expect([sizes.size, store.problem]).toEqual([1, null]);
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
