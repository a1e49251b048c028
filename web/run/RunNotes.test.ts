import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import type { DeliveryView, RunPlanView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useReadings } from '../readability/readings.ts';
import RunNotes from './RunNotes.vue';

beforeEach(() => void setActivePinia(createPinia()));

function shown(part: { existing?: number; rule?: string; laysWall?: boolean }) {
  const { existing = 0, rule = 'number', laysWall = true } = part;
  const delivery = { id: 1, name: 'Web', rule: { existing: rule } };
  useLibrary().deliveries = [delivery as unknown as DeliveryView];
  const planned = { deliveryId: 1, name: 'Web', existing, sameNames: 0 };
  const plan = { deliveries: [planned], disks: [], problem: null } as unknown as RunPlanView;
  return mount(RunNotes, {
    props: { plan, photoIds: null, laysWall, isStillComingIn: false, problem: null },
  }).text();
}

it.each([
  [1, 'number', '1 file of this name exists in the folder; both are kept, the new one gets'],
  [3, 'number', '3 files of these names exist in the folder; both are kept, the new ones get'],
  [1, 'skip', '1 file of this name exists in the folder; that photo is skipped.'],
  [3, 'skip', '3 files of these names exist in the folder; those photos are skipped.'],
  [1, 'replace', '1 file of this name exists in the folder and will be replaced.'],
])('%i that exist are told: %s', (existing, rule, text) => {
  expect(shown({ existing, rule })).toContain(text);
});

it('tells how marks read only where those of the wall are laid', () => {
  vi.spyOn(useReadings(), 'countsOf').mockReturnValue({ clear: 2, faint: 1, lost: 0 } as never);
  expect(shown({})).toContain('The mark is faint on 1 of the photos.');
  expect(shown({ laysWall: false })).not.toContain('faint');
});
