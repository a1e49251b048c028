import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { penSettingsSchema } from '#core/contract/pen';
import PenSheet from './PenSheet.vue';
import PenTry from './PenTry.vue';

const pen = penSettingsSchema.parse({});

function sheet() {
  const mounted = mount(PenSheet, { props: { strokes: [], pen } });
  const svg = mounted.get('svg');
  svg.element.setPointerCapture = () => undefined;
  return { mounted, svg };
}

const at = (clientX: number, clientY: number, more = {}) => ({
  ...{ clientX, clientY, button: 0, pointerType: 'mouse', pressure: 0.5 },
  ...more,
});

describe('PenSheet', () => {
  it('gives a stroke with its points', async () => {
    const { mounted, svg } = sheet();
    await svg.trigger('pointerdown', at(10, 20));
    await svg.trigger('pointermove', at(14.126, 22));
    await svg.trigger('pointerup', at(14, 22));
    expect(mounted.emitted('stroke')).toEqual([
      [{ points: [10, 20, 0.5, 14.13, 22, 0.5], pressure: false }],
    ]);
  });

  it('takes the pressure of a stylus, and then no touch of the hand', async () => {
    const { mounted, svg } = sheet();
    await svg.trigger('pointerdown', at(1, 1, { pointerType: 'pen', pressure: 0.8 }));
    await svg.trigger('pointerup', at(1, 1, { pointerType: 'pen', pressure: 0 }));
    await svg.trigger('pointerdown', at(9, 9, { pointerType: 'touch' }));
    await svg.trigger('pointerup', at(9, 9, { pointerType: 'touch' }));
    expect(mounted.emitted('stroke')).toEqual([[{ points: [1, 1, 0.8], pressure: true }]]);
  });

  it('does not draw with another button', async () => {
    const { mounted, svg } = sheet();
    await svg.trigger('pointerdown', at(1, 1, { button: 2 }));
    await svg.trigger('pointerup', at(1, 1));
    expect(mounted.emitted('stroke')).toBeUndefined();
  });

  it('shows where to sign until something is signed', async () => {
    const { mounted } = sheet();
    expect(mounted.text()).toContain('Sign here');
    await mounted.setProps({ strokes: [{ points: [0, 0, 0.5, 9, 9, 0.5], pressure: false }] });
    expect(mounted.text()).not.toContain('Sign here');
  });
});

describe('PenTry', () => {
  it('shows the try in the present pen, and can be chosen or thrown away', async () => {
    const strokes = [{ points: [0, 0, 0.5, 90, 20, 0.5], pressure: false }];
    const card = mount(PenTry, { props: { strokes, pen, label: 'Try 1', isCurrent: false } });
    const before = card.get('img').attributes('src');
    await card.setProps({ pen: { ...pen, weight: 40 } });
    expect(card.get('img').attributes('src')).not.toBe(before);
    await card.get('[aria-label="Throw try 1 away"]').trigger('click');
    await card.get('.choose').trigger('click');
    expect([card.emitted('drop'), card.emitted('choose')]).toEqual([[[]], [[]]]);
  });

  it('is empty paper without strokes', () => {
    const card = mount(PenTry, { props: { strokes: [], pen, label: 'Try 2', isCurrent: true } });
    expect(card.find('img').exists()).toBe(false);
  });
});
