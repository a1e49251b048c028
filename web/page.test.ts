import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { nextTick, ref } from 'vue';
import type { PhotoView, PresetView } from '#core/contract/http';
import { deliveryRecipeSchema } from '#core/contract/delivery';
import { presetRuleSchema } from '#core/contract/preset';
import NumberField from './components/NumberField.vue';
import { fillRows } from './composables/fillRows.ts';
import { bytesText, counted, remainingText } from './composables/format.ts';
import { resizeText, shortRecipe, typeText } from './composables/recipeText.ts';
import { useJustifiedRows } from './composables/useJustifiedRows.ts';
import { sample } from './composables/useSamplePhotos.ts';
import { useWallSelection } from './composables/useWallSelection.ts';
import { useDraft } from './stores/draft.ts';
import { useLibrary } from './stores/library.ts';

/** The parts of the page that decide something, without a browser. */

function photo(id: number, width: number, height: number, lightness = 50): PhotoView {
  return { id, width, height, lightness, name: `${id}.jpg` } as PhotoView;
}

describe('number field', () => {
  const field = (modelValue: number) =>
    mount(NumberField, { props: { modelValue, label: 'Size', min: 0.1, max: 100, unit: '%' } });

  it('takes a comma and a unit, and says nothing of what is out of range', async () => {
    const wrapper = field(14);
    await wrapper.find('input').setValue('31,5 %');
    expect(wrapper.emitted('update:modelValue')?.at(-1)).toEqual([31.5]);
    await wrapper.find('input').setValue('0');
    await wrapper.find('input').setValue('abc');
    expect(wrapper.emitted('update:modelValue')).toHaveLength(1);
    expect(wrapper.find('input').attributes('aria-invalid')).toBe('true');
    await wrapper.find('input').trigger('blur');
    expect(wrapper.find('input').element.value).toBe('14');
  });

  it('steps by arrows, ten times as far with Shift, and stops at the end', async () => {
    const wrapper = field(95);
    await wrapper.find('input').trigger('keydown', { key: 'ArrowUp' });
    await wrapper.find('input').trigger('keydown', { key: 'ArrowDown', shiftKey: true });
    await wrapper.find('input').trigger('keydown', { key: 'ArrowUp', shiftKey: true });
    expect(wrapper.emitted('update:modelValue')).toEqual([[96], [85], [100]]);
  });
});

describe('draft', () => {
  beforeEach(() => {
    localStorage.clear();
    setActivePinia(createPinia());
  });

  function presets(...rules: object[]): PresetView[] {
    return rules.map((part, index) => ({
      ...{ id: index + 1, name: `P${index + 1}`, markId: 1, updatedAt: '', usedBy: [] },
      ...{ favourite: false, uses: 0, usedAt: null, version: 1 },
      rule: presetRuleSchema.parse(part),
    }));
  }

  it('knows what is changed, puts it back, and keeps it while another preset is looked at', () => {
    useLibrary().presets = presets({ opacity: 0.5 }, { opacity: 0.9 });
    const draft = useDraft();
    draft.open(1);
    expect(draft.isDirty).toBe(false);
    draft.change({ opacity: 0.6 });
    expect(draft.isDirty).toBe(true);
    draft.open(2);
    expect([draft.isDirty, draft.rule.opacity]).toEqual([false, 0.9]);
    draft.open(1);
    expect([draft.isDirty, draft.rule.opacity]).toEqual([true, 0.6]);
    draft.putBack();
    expect([draft.isDirty, draft.rule.opacity]).toEqual([false, 0.5]);
  });
});

describe('selection', () => {
  const photos = ref([1, 2, 3, 4].map((id) => photo(id, 3, 2)));
  const click = (part: object) => ({ target: null, ...part }) as unknown as MouseEvent;

  it('grows by Ctrl and Shift, and follows photos that leave', async () => {
    const wall = useWallSelection(photos);
    wall.choose(photos.value[0], click({ ctrlKey: true }));
    wall.choose(photos.value[2], click({ shiftKey: true }));
    expect([...wall.selected.value].sort()).toEqual([1, 2, 3]);
    wall.choose(photos.value[1], click({ ctrlKey: true }));
    expect([...wall.selected.value].sort()).toEqual([1, 3]);
    photos.value = photos.value.filter(({ id }) => id !== 3);
    await nextTick();
    expect([...wall.selected.value]).toEqual([1]);
    wall.step(1);
    expect(wall.currentId.value).toBe(4);
    wall.step(1);
    expect(wall.currentId.value).toBe(4);
  });
});

describe('layout', () => {
  it('fills the width with each row, in the order of the photos', () => {
    const some = Array.from({ length: 40 }, (_, id) => photo(id, 300 + 150 * (id % 4), 300));
    const rows = useJustifiedRows(ref(some), ref(1000), ref(180)).value;
    expect(rows.flatMap((row) => row.boxes.map(({ item }) => item.id))).toEqual(
      some.map(({ id }) => id),
    );
    for (const row of rows.slice(0, -1)) {
      const last = row.boxes[row.boxes.length - 1];
      expect(Math.abs(last.left + last.width - 1000)).toBeLessThan(2);
    }
  });

  it('lays a few photos as large as an area allows', () => {
    const rows = fillRows([photo(1, 3, 1), photo(2, 2, 3), photo(3, 1, 1)], {
      width: 900,
      height: 500,
    });
    expect(rows.flatMap((row) => row.items.map(({ id }) => id))).toEqual([1, 2, 3]);
    expect(rows.reduce((sum, row) => sum + row.height, 0)).toBeLessThanOrEqual(500);
    expect(fillRows([], { width: 9, height: 9 })).toEqual([]);
  });

  it('samples the widest, tallest, darkest, brightest and squarest photos', () => {
    const some = [
      ...[photo(1, 30, 10), photo(2, 10, 20), photo(3, 3, 2, 5), photo(4, 3, 2, 95)],
      ...[photo(5, 10, 10), photo(6, 3, 2), photo(7, 3, 2)],
    ];
    expect(sample(some).map(({ id }) => id)).toEqual([1, 2, 3, 4, 5]);
    expect(sample(some.slice(0, 3))).toHaveLength(3);
  });
});

describe('words', () => {
  it('says sizes and times as people do', () => {
    expect([0, 300, 266_000, 1_140_000, 38_400_000, 2.5e9].map(bytesText)).toEqual([
      '0',
      '1 KB',
      '266 KB',
      '1.1 MB',
      '38 MB',
      '2.5 GB',
    ]);
    expect([2_000, 42_000, 300_000].map(remainingText)).toEqual([
      'a few seconds',
      'about 42 s',
      'about 5 min',
    ]);
    expect([counted(1, 'photo'), counted(1_200, 'photo')]).toEqual(['1 photo', '1,200 photos']);
  });

  it.each([
    [{}, 'JPEG of quality 88', '2048 px on the long side', 'JPEG, 2048 px'],
    [{ file: { type: 'png' }, resize: null }, 'PNG', 'full size', 'PNG, full size'],
    [{ resize: { rule: 'megapixels', px: 4 } }, 'JPEG of quality 88', '4 megapixels', 'JPEG, 4 MP'],
    [
      { resize: { rule: 'within', px: 900, px2: 600 } },
      'JPEG of quality 88',
      'within 900 × 600 px',
      'JPEG, 900 px',
    ],
  ])('reads %j as a sentence', (part, type, size, short) => {
    const recipe = deliveryRecipeSchema.parse(part);
    expect([typeText(recipe.file), resizeText(recipe.resize), shortRecipe(recipe)]).toEqual([
      type,
      size,
      short,
    ]);
  });
});
