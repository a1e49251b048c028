import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { effectScope, nextTick, shallowRef } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { ANCHORS, presetRuleSchema } from '#core/contract/preset';
import { PLACES } from '#core/readability/calmness';
import { classOf } from '#core/readability/measure';
import { useLibrary } from '../app/library.ts';
import { useDraft } from '../preset/draft.ts';
import { useReadings } from '../readability/readings.ts';
import { useBatches } from './batches.ts';
import { useWallFilter } from './useWallFilter.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

vi.stubGlobal('Worker', class {});
const MARK = {
  ...{ name: 'M', version: 1, kind: 'svg', notes: [], retired: false, usedBy: [], box: null },
  ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, bleed: { x: 0, y: 0 }, isPending: false },
};
const photo = (id: number, width = 3, height = 2) =>
  ({ id, name: `${id}.jpg`, width, height, capturedAt: null, year: 2026 }) as PhotoView;
const PHOTOS = [photo(1), photo(2, 2, 3), photo(3, 9, 3)];

beforeEach(() => setActivePinia(createPinia()));

/** The filter with shares of ink as if they had been measured. */
async function filter(shares: readonly number[]) {
  const readings = useReadings();
  readings.photos = PHOTOS;
  Object.defineProperty(readings, 'shares', { get: () => shares });
  const classes = shares.map((share) => classOf(share, share));
  Object.defineProperty(readings, 'classes', { get: () => classes });
  const found = effectScope().run(() => useWallFilter(shallowRef(PHOTOS)));
  if (!found) throw new Error('no scope');
  const ids = async (): Promise<number[]> => {
    await nextTick();
    return found.shown.value.map(({ id }) => id);
  };
  return { ...found, ids, readings };
}

it('shows one class, and only what is exported of it', async () => {
  const { show, ids } = await filter([0.95, 0.2, 0.1]);
  show.value = 'lost';
  expect(await ids()).toEqual([2, 3]);
  useDraft().adjust([3], { leftOut: true });
  expect(await ids()).toEqual([2]);
  show.value = 'left out';
  expect(await ids()).toEqual([3]);
  show.value = 'clear';
  expect(await ids()).toEqual([1]);
});

it('counts and shows what was adjusted, apart from what was left out', async () => {
  const { show, ids, signs } = await filter([1, 1, 1]);
  useDraft().adjust([1], { opacity: 0.5 });
  useDraft().adjust([2], { leftOut: true });
  expect(signs.value).toEqual({ adjusted: 1, leftOut: 1, troubles: [] });
  show.value = 'adjusted';
  expect(await ids()).toEqual([1]);
});

it('puts them in order', async () => {
  const { sort, ids } = await filter([0.95, 0.7, 0.1]);
  expect(await ids()).toEqual([1, 2, 3]);
  sort.value = 'worst first';
  expect(await ids()).toEqual([3, 2, 1]);
  sort.value = 'by shape';
  expect(await ids()).toEqual([2, 1, 3]);
});

it('shows photos of which the mark lies on the busiest part', async () => {
  const { show, ids, signs, readings } = await filter([1, 1, 1]);
  const numbers = new Float32Array(PHOTOS.length * PLACES).fill(0.9);
  numbers[PLACES + ANCHORS.indexOf('bottom-right')] = 0.1;
  Object.defineProperty(readings, 'askCalm', { value: () => Promise.resolve(numbers) });
  readings.rested++;
  await eventually(() => expect(signs.value.troubles).toHaveLength(1));
  show.value = 'busiest';
  expect(await ids()).toEqual([2]);
  useDraft().adjust([2], { anchor: 'top' });
  await eventually(async () => expect(await ids()).toEqual([]));
});

it('shows photos that lack words the mark takes, and those on which marks touch', async () => {
  const library = useLibrary();
  const mark = (id: number, tokens: readonly string[]) =>
    ({ ...MARK, id, tokens }) as unknown as (typeof library.marks)[number];
  library.marks = [mark(1, ['date']), mark(2, [])];
  const preset = (id: number) =>
    ({
      id,
      name: `P${id}`,
      markId: id,
      version: 1,
      rule: presetRuleSchema.parse({}),
    }) as (typeof library.presets)[number];
  library.presets = [preset(1), preset(2)];
  const draft = useDraft();
  draft.open(1, { id: 9, placing: null, beside: { at: 0, marks: [] } });
  const { show, ids, signs, readings } = await filter([1, 1, 1]);
  readings.rested++;
  await eventually(() => expect(signs.value.troubles).toHaveLength(1));
  expect(signs.value.troubles[0].text).toBe('without capture date');
  draft.addMark(2);
  readings.rested++;
  await eventually(() => expect(signs.value.troubles).toHaveLength(2));
  // Both lie low right until one is moved on a photo.
  draft.adjust([3], { anchor: 'top-left' });
  readings.rested++;
  show.value = 'touching';
  await eventually(async () => expect(await ids()).toEqual([1, 2]));
});

it('tells the order of all photos, whatever is shown of them', async () => {
  const { show, sort, ids } = await filter([0.95, 0.2, 0.1]);
  expect(useBatches().wallOrder).toBeNull();
  show.value = 'lost';
  sort.value = 'by shape';
  expect(await ids()).toEqual([2, 3]);
  expect(useBatches().wallOrder).toEqual([2, 1, 3]);
  sort.value = 'by time';
  await ids();
  expect(useBatches().wallOrder).toBeNull();
});
