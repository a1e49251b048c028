import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import { defineComponent, ref } from 'vue';
import { vRadioKeys } from './radioKeys.ts';

function group(columns: number | undefined, words: readonly string[], chosen: string | null) {
  return mount(
    defineComponent({
      directives: { radioKeys: vRadioKeys },
      setup: () => ({ words, columns, chosen: ref(chosen) }),
      template: `<div role="radiogroup" v-radio-keys="columns"><button v-for="word in words" :key="word"
        role="radio" :aria-checked="word === chosen" @click="chosen = word">{{ word }}</button></div>`,
    }),
    { attachTo: document.body },
  );
}

type Group = ReturnType<typeof group>;
const checked = (wrapper: Group): string[] =>
  wrapper.findAll('[aria-checked="true"]').map((radio) => radio.text());
const stops = (wrapper: Group): string[] =>
  wrapper.findAll('[tabindex="0"]').map((radio) => radio.text());

async function press(wrapper: Group, key: string): Promise<Event> {
  const focused = document.activeElement as HTMLElement;
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  focused.dispatchEvent(event);
  await wrapper.vm.$nextTick();
  return event;
}

it('is one tab stop, and arrows choose, round and round', async () => {
  const wrapper = group(undefined, ['paper', 'grey', 'black'], 'grey');
  expect(stops(wrapper)).toEqual(['grey']);
  wrapper.findAll('button')[1].element.focus();
  await press(wrapper, 'ArrowRight');
  expect([checked(wrapper), stops(wrapper)]).toEqual([['black'], ['black']]);
  await press(wrapper, 'ArrowDown');
  expect(checked(wrapper)).toEqual(['paper']);
  await press(wrapper, 'ArrowLeft');
  expect(checked(wrapper)).toEqual(['black']);
  wrapper.unmount();
});

it('goes by rows in a grid, not beyond its edges, and keeps its arrows to itself', async () => {
  const wrapper = group(3, ['1', '2', '3', '4', '5', '6', '7', '8', '9'], '5');
  let isHeard = false;
  window.addEventListener('keydown', () => (isHeard = true));
  wrapper.findAll('button')[4].element.focus();
  expect((await press(wrapper, 'ArrowUp')).defaultPrevented).toBe(true);
  expect(checked(wrapper)).toEqual(['2']);
  await press(wrapper, 'ArrowUp');
  expect(checked(wrapper)).toEqual(['2']);
  await press(wrapper, 'ArrowRight');
  expect(checked(wrapper)).toEqual(['3']);
  expect(isHeard).toBe(false);
  await press(wrapper, 't');
  expect(isHeard).toBe(true);
  wrapper.unmount();
});

it('begins with the first where none is chosen', () => {
  const wrapper = group(undefined, ['a', 'b'], null);
  expect(stops(wrapper)).toEqual(['a']);
  wrapper.unmount();
});
