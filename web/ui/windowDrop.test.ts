import { mount } from '@vue/test-utils';
import { afterEach, expect, it } from 'vitest';
import { effectScope, nextTick } from 'vue';
import type { Dropped } from './droppedFiles.ts';
import { useDropTarget } from './windowDrop.ts';
import WindowDrop from './WindowDrop.vue';
import { eventually } from '../../tests/helpers/eventually.ts';

const files = [new File(['x'], 'a.jpg'), new File(['x'], '.hidden')];

function dragged(type: string, part: Partial<DragEvent> = {}, kinds = ['Files']): DragEvent {
  const event = new Event(type, { bubbles: true, cancelable: true });
  const items = files.map((file) => ({
    ...{ kind: 'file', webkitGetAsEntry: () => null, getAsFile: () => file },
  }));
  return Object.assign(event, { dataTransfer: { types: kinds, items }, ...part }) as DragEvent;
}

let end = (): void => undefined;
afterEach(() => end());

function opened(): {
  taken: Dropped[];
  scope: ReturnType<typeof effectScope>;
  shown: () => string;
} {
  const taken: Dropped[] = [];
  const page = mount(WindowDrop, { attachTo: document.body });
  const scope = effectScope();
  scope.run(() => useDropTarget({ says: 'Make a batch', take: (some) => taken.push(some) }));
  end = () => {
    scope.stop();
    page.unmount();
  };
  return { taken, scope, shown: () => page.text() };
}

it('says over the window what becomes of files, takes them, and opens none', async () => {
  const { taken, shown } = opened();
  const over = dragged('dragover');
  document.body.dispatchEvent(over);
  await nextTick();
  expect([over.defaultPrevented, shown()]).toEqual([true, 'Make a batch']);
  const drop = dragged('drop');
  document.body.dispatchEvent(drop);
  await eventually(() => expect(taken).toHaveLength(1));
  expect(drop.defaultPrevented).toBe(true);
  expect(taken[0].files.map(({ name }) => name)).toEqual(['a.jpg']);
  expect(shown()).toBe('');
});

it('gives them to the view that was opened last, and to the one before when it is left', async () => {
  const { taken } = opened();
  const batch = effectScope();
  const added: Dropped[] = [];
  batch.run(() => useDropTarget({ says: () => 'Add to it', take: (some) => added.push(some) }));
  document.body.dispatchEvent(dragged('drop'));
  await eventually(() => expect(added).toHaveLength(1));
  expect(taken).toHaveLength(0);
  batch.stop();
  document.body.dispatchEvent(dragged('drop'));
  await eventually(() => expect(taken).toHaveLength(1));
});

it('leaves what is no file alone, and what a place of its own took', async () => {
  const { taken, shown } = opened();
  const card = dragged('dragover', {}, ['text/plain']);
  document.body.dispatchEvent(card);
  expect(card.defaultPrevented).toBe(false);
  document.body.dispatchEvent(dragged('dragover'));
  const ticket = document.body.appendChild(document.createElement('div'));
  ticket.addEventListener('drop', (event) => event.stopPropagation());
  ticket.dispatchEvent(dragged('drop'));
  await nextTick();
  expect(taken).toHaveLength(0);
  expect(shown()).toBe('');
  ticket.remove();
});
