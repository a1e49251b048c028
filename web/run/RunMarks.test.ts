import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it } from 'vitest';
import type { DeliveryView, PresetView, RunWish } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import RunMarks from './RunMarks.vue';

beforeEach(() => {
  setActivePinia(createPinia());
  const library = useLibrary();
  const preset = (id: number, name: string) => ({ id, name }) as PresetView;
  library.presets = [preset(1, 'Sign'), preset(2, 'Proof'), preset(3, 'Number')];
  const delivery = (id: number, name: string, presetId: number | null, overIds: number[]) =>
    ({ id, name, presetId, overIds }) as unknown as DeliveryView;
  library.deliveries = [
    delivery(1, 'Web', 1, []),
    delivery(2, 'Client proofs', 2, [3]),
    delivery(3, 'Plain', null, []),
  ];
});

/** Of a bench with the preset Sign. */
function shown(deliveryId: number, shownDeliveryId: number | null, laid: string | null) {
  const wish = { deliveryIds: [deliveryId], presetId: 1, presetName: 'Sign', over: [] };
  return mount(RunMarks, {
    props: { wish: { ...wish, shownDeliveryId } as unknown as RunWish, laid },
  });
}

it.each([
  ['has the same of its own', 1, 1, 'Sign', 'With Sign, as the wall shows it.'],
  ['has none of its own', 3, 3, 'Sign', 'With Sign, as the wall shows it.'],
  ['lays no mark', 2, 2, null, 'Without a mark.'],
])('asks nothing where the delivery %s', (_, id, shownId, laid, text) => {
  const marks = shown(id, shownId, laid);
  expect(marks.text()).toBe(text);
  expect(marks.find('button').exists()).toBe(false);
});

it('says that the wall shows other marks than the delivery has, and takes those instead', async () => {
  const marks = shown(2, 2, 'Sign');
  expect(marks.get('p').text()).toBe('With Sign, as the wall shows it.');
  expect(marks.get('button').text()).toBe('Take what Client proofs has');
  expect(marks.get('button').attributes('title')).toBe('Proof + Number');
  await marks.get('button').trigger('click');
  expect(marks.emitted('lay')).toEqual([['own']]);
});

it.each([
  ['another is shown', 1],
  ['it was told to', null],
])('says that the delivery lays its own where %s, and goes back', async (_, shownId) => {
  const marks = shown(2, shownId, 'Proof + Number');
  expect(marks.get('p').text()).toBe('With Proof + Number, as Client proofs has it.');
  expect(marks.get('button').text()).toBe('Take what the wall shows');
  await marks.get('button').trigger('click');
  expect(marks.emitted('lay')).toEqual([['wall']]);
});
