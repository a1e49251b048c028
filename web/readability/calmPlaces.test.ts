import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { nextTick, ref, shallowRef } from 'vue';
import { ANCHORS } from '#core/contract/preset';
import { fakeServer } from '../testing/fakeServer.ts';
import { useCalmPlaces } from './calmPlaces.ts';

/** Calm places of a batch whose light comes when everything else has come to rest. */

const lightsTaken = ref(0);
let numbers: Float32Array | null = null;
vi.mock('./useEstimates.ts', () => ({
  useEstimates: () => ({
    ...{ estimates: shallowRef(null), places: shallowRef(new Map()), lightsTaken },
    ...{ take: () => Promise.resolve(), ask: () => Promise.resolve() },
    calm: () => Promise.resolve(numbers),
  }),
}));

beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  lightsTaken.value = 0;
  fakeServer({});
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('are looked for again when the light of the photos has come', async () => {
  numbers = new Float32Array(ANCHORS.length).fill(NaN);
  const calm = useCalmPlaces();
  await vi.advanceTimersByTimeAsync(5_000);
  expect(calm.counts?.some((count) => count > 0)).toBe(false);
  numbers = new Float32Array(ANCHORS.length).fill(1);
  await vi.advanceTimersByTimeAsync(5_000);
  expect(calm.counts?.some((count) => count > 0)).toBe(false);
  lightsTaken.value++;
  await nextTick();
  await vi.advanceTimersByTimeAsync(0);
  expect(calm.counts && [...calm.counts]).toEqual(ANCHORS.map(() => 1));
});
