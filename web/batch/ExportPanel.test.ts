import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import type { DeliveryView } from '#core/contract/http';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { useLibrary } from '../app/library.ts';
import ExportPanel from './ExportPanel.vue';

function delivery(id: number, name: string): DeliveryView {
  const rule = DEFAULT_DELIVERY;
  const where = { folder: null, subfolder: 'none', zip: false } as const;
  return { id, name, presetId: null, overIds: [], rule, ...where, favourite: true, version: 1 };
}

beforeEach(() => {
  setActivePinia(createPinia());
  useLibrary().deliveries = [delivery(4, 'Web'), delivery(7, 'Proofs'), delivery(9, 'Print')];
});

function shown(chosen: readonly number[], selected = 0) {
  const props = { modelValue: chosen, total: 12, selected, isReady: true };
  return mount(ExportPanel, { props });
}

describe('the deliveries of a batch', () => {
  it('are ticked, each photo a file for each', () => {
    const panel = shown([4, 9]);
    const boxes = panel.findAll<HTMLInputElement>('input');
    expect(boxes.map(({ element }) => element.checked)).toEqual([true, false, true]);
    expect(panel.text()).toContain('Export 24 files');
    expect(shown([4, 9], 5).text()).toContain('Export 10 files');
  });

  it('are kept in the order of the list, since the wall shows the first', async () => {
    const panel = shown([9]);
    await panel.findAll('input')[0].trigger('change');
    expect(panel.emitted('update:modelValue')).toEqual([[[4, 9]]]);
  });

  it('may be none, and are changed each by its own button', async () => {
    const panel = shown([7]);
    await panel.findAll('input')[1].trigger('change');
    expect(panel.emitted('update:modelValue')).toEqual([[[]]]);
    await panel.get('[aria-label="Change Print"]').trigger('click');
    expect(panel.emitted('edit')).toEqual([[9]]);
  });
});
