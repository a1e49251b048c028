import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { defineComponent, h } from 'vue';
import { useDraft } from '../draft.ts';
import { useBenchKeys } from './useBenchKeys.ts';

/** The bench by keys alone, as the page hears them. */

let unmount: () => void;
beforeEach(() => {
  setActivePinia(createPinia());
  const Bench = defineComponent({
    setup() {
      useBenchKeys(() => ['light', 'dark', '#c9a25b']);
      return () => h('input', { id: 'field' });
    },
  });
  const wrapper = mount(Bench, { attachTo: document.body });
  unmount = () => wrapper.unmount();
});
afterEach(() => unmount());

function press(
  key: string,
  part: KeyboardEventInit = {},
  target: EventTarget = document.body,
): void {
  const code = /^[1-9]$/.test(key) ? `Digit${key}` : '';
  target.dispatchEvent(
    new KeyboardEvent('keydown', { key, code, bubbles: true, cancelable: true, ...part }),
  );
}

describe('digits', () => {
  it.each([
    ['7', 'top-left'],
    ['8', 'top'],
    ['9', 'top-right'],
    ['4', 'left'],
    ['5', 'centre'],
    ['6', 'right'],
    ['1', 'bottom-left'],
    ['2', 'bottom'],
    ['3', 'bottom-right'],
  ])('%s puts the mark %s, where the key lies on a number pad', (key, anchor) => {
    const draft = useDraft();
    draft.change({ offset: { x: 9, y: 9 } });
    press(key);
    expect(draft.rule.anchor).toBe(anchor);
    expect(draft.rule.offset).toEqual({ x: 0, y: 0 });
  });
});

describe('arrows', () => {
  it.each([
    ['ArrowLeft', false, { x: 3.1, y: 3 }],
    ['ArrowRight', false, { x: 2.9, y: 3 }],
    ['ArrowUp', true, { x: 3, y: 4 }],
    ['ArrowDown', true, { x: 3, y: 2 }],
  ])('%s (Shift: %s) moves a mark held low right by its inset', (key, shiftKey, inset) => {
    press(key, { shiftKey });
    expect(useDraft().rule.inset).toEqual({ unit: 'percent', ...inset });
  });

  it('moves by the offset on an axis that is centred', () => {
    const draft = useDraft();
    draft.change({ anchor: 'top' });
    press('ArrowLeft', { shiftKey: true });
    press('ArrowDown');
    expect(draft.rule.offset).toEqual({ x: -1, y: 0 });
    expect(draft.rule.inset.y).toBe(3.1);
  });

  it('never moves past the edge, and by whole pixels where the inset is in pixels', () => {
    const draft = useDraft();
    draft.change({ inset: { unit: 'pixels', x: 4, y: 40 } });
    press('ArrowRight', { shiftKey: true });
    press('ArrowUp');
    expect(draft.rule.inset).toEqual({ unit: 'pixels', x: 0, y: 41 });
  });
});

describe('size, tone and opacity', () => {
  it('grow and shrink within what a preset allows', () => {
    const draft = useDraft();
    press('+');
    expect(draft.rule.size.value).toBeCloseTo(14.56, 6);
    press('-');
    expect(draft.rule.size.value).toBeCloseTo(14, 2);
    draft.change({ size: { basis: 'width', value: 1_000 } });
    press('+');
    expect(draft.rule.size.value).toBe(1_000);
  });

  it('go round', () => {
    const draft = useDraft();
    const tones = [0, 1, 2, 3, 4].map(() => {
      press('t');
      const { tone } = draft.rule;
      return tone.rule === 'auto' ? 'auto' : tone.tone;
    });
    expect(tones).toEqual(['light', 'dark', '#c9a25b', 'auto', 'light']);
    const opacities = Array.from({ length: 6 }, () => {
      press('o');
      return draft.rule.opacity;
    });
    expect(opacities).toEqual([0.7, 0.5, 0.3, 0.15, 1, 0.85]);
  });
});

it('stays out of the way of typing and of the browser’s own keys', () => {
  const draft = useDraft();
  const before = JSON.stringify(draft.rule);
  const field = document.getElementById('field') as HTMLInputElement;
  press('5', {}, field);
  press('t', { ctrlKey: true });
  press('ArrowLeft', { altKey: true });
  expect(JSON.stringify(draft.rule)).toBe(before);
});
