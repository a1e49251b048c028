import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import FieldRows from './FieldRows.vue';
import SwatchRow from './SwatchRow.vue';
import { shareField, type FieldSpec } from './fields.ts';

const FIELDS: readonly FieldSpec[] = [
  shareField('opacity', 'opacity', { label: 'Opacity of the layer' }),
  { kind: 'range', key: 'weight', word: 'weight', from: 0, to: 3, max: 9, step: 0.1, unit: 'px' },
  { kind: 'number', key: 'turn', word: 'turn', from: -360, to: 360, unit: '°' },
  {
    ...{ kind: 'choice', key: 'form', word: 'form', label: 'Form' },
    options: [
      { value: 'line', label: 'line' },
      { value: 'ring', label: 'ring' },
    ],
  },
  { kind: 'toggle', key: 'stagger', word: 'every other row shifted' },
  { kind: 'own', key: 'colour', word: 'colour' },
];
const values = { opacity: 0.35, weight: 1.2, turn: 90, form: 'ring', stagger: true };

function rows() {
  return mount(FieldRows, {
    props: { fields: FIELDS, values },
    slots: { colour: '<b class="own">here</b>' },
  });
}

describe('rows of fields', () => {
  it('show what is set, in the units of the table', () => {
    const page = rows();
    const shown = (label: string) => page.get<HTMLInputElement>(`[aria-label="${label}"]`).element;
    expect(shown('Opacity of the layer').value).toBe('35');
    expect(shown('Opacity of the layer, exact').value).toBe('35');
    expect(shown('weight, exact').value).toBe('1.2');
    expect(shown('turn').value).toBe('90');
    expect(page.get('[aria-checked="true"]').text()).toBe('ring');
    expect(page.get<HTMLInputElement>('[type="checkbox"]').element.checked).toBe(true);
    expect(page.get('.own').text()).toBe('here');
  });

  it('tell what was changed, as it is stored, and of which field', async () => {
    const page = rows();
    await page.get('[aria-label="Opacity of the layer"]').setValue(60);
    // The number goes further than its slider.
    await page.get('[aria-label="weight, exact"]').setValue('7.5');
    await page.get('[role="radio"]').trigger('click');
    await page.get('[type="checkbox"]').setValue(false);
    expect(page.emitted('change')).toEqual([
      ['opacity', 0.6, FIELDS[0]],
      ['weight', 7.5, FIELDS[1]],
      ['form', 'line', FIELDS[3]],
      ['stagger', false, FIELDS[4]],
    ]);
  });
});

describe('a row of swatches', () => {
  const options = [
    { value: 'light', label: 'Light', swatch: '#fff' },
    { value: 'dark', label: 'Dark', swatch: '#000' },
  ];

  it('has one tab stop where one holds, and is a group of boxes where several may', () => {
    const one = mount(SwatchRow, { props: { label: 'Tone', options, chosen: ['dark'] } });
    const stops = one
      .findAll('[role="radio"]')
      .map(({ element }) => (element as HTMLElement).tabIndex);
    expect(stops).toEqual([-1, 0]);
    const several = mount(SwatchRow, {
      props: { label: 'Tone', options, chosen: ['light', 'dark'], several: true },
    });
    expect(several.findAll('[role="checkbox"][aria-checked="true"]')).toHaveLength(2);
  });

  it('shows any other colour where one holds that is not offered', async () => {
    const row = mount(SwatchRow, {
      props: { label: 'Tone', options, chosen: ['#123456'], hasOther: true },
    });
    const other = row.get<HTMLInputElement>('[type="color"]');
    expect(other.element.value).toBe('#123456');
    await other.setValue('#abcdef');
    expect(row.emitted('other')).toEqual([['#abcdef']]);
  });
});
