import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import NumberField from './NumberField.vue';

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
