import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { ask, asked, askName, askNameTaken, askSure } from './ask.ts';
import AskHost from './AskHost.vue';

/** The dialog as it stands in the document. */
const dialog = (): HTMLElement | null => document.querySelector('.modal .modal-body');
const button = (label: string): HTMLButtonElement | undefined =>
  [...document.querySelectorAll<HTMLButtonElement>('.modal button')].find(
    ({ textContent }) => textContent?.trim() === label,
  );

let host: ReturnType<typeof mount>;
beforeEach(() => (host = mount(AskHost, { attachTo: document.body })));
afterEach(() => {
  while (asked.value) asked.value.give(null);
  host.unmount();
});

async function shows(): Promise<void> {
  await nextTick();
  await new Promise((done) => setTimeout(done, 20));
}

describe('a name', () => {
  it('is what was typed, without room around it', async () => {
    const naming = askName({ title: 'Rename the batch', name: 'Before', action: 'Rename' });
    await shows();
    const field = document.querySelector<HTMLInputElement>('.modal input');
    expect(field?.value).toBe('Before');
    if (!field) return;
    field.value = '   ';
    field.dispatchEvent(new Event('input'));
    await nextTick();
    expect(button('Rename')?.disabled).toBe(true);
    field.value = '  After ';
    field.dispatchEvent(new Event('input'));
    await nextTick();
    document.querySelector('.modal form')?.dispatchEvent(new Event('submit'));
    expect(await naming).toBe('After');
  });

  it('that another has is told while it is typed, and may be given', async () => {
    const naming = askName({ title: 'Rename', name: 'One', action: 'Rename', taken: ['Two'] });
    await shows();
    expect(dialog()?.textContent).not.toContain('Another has this name');
    const field = document.querySelector<HTMLInputElement>('.modal input');
    if (field) field.value = 'two ';
    field?.dispatchEvent(new Event('input'));
    await nextTick();
    expect(dialog()?.textContent).toContain('Another has this name already');
    document.querySelector('.modal form')?.dispatchEvent(new Event('submit'));
    expect(await naming).toBe('two');
  });

  it('that is taken is asked about in its own words', async () => {
    const deciding = askNameTaken('delivery', 'Web', 'Web 2');
    await shows();
    expect(dialog()?.textContent).toContain('There is a delivery named Web.');
    button('Keep both')?.click();
    expect(await deciding).toBe('both');
  });
});

describe('questions', () => {
  it('are asked one after the other', async () => {
    const first = askSure('One?', 'text', 'Do it');
    const second = askSure('Two?', 'text', 'Do it');
    await shows();
    expect(asked.value?.question.title).toBe('One?');
    button('Cancel')?.click();
    expect(await first).toBe(false);
    await shows();
    expect(asked.value?.question.title).toBe('Two?');
    document.querySelector('.modal form')?.dispatchEvent(new Event('submit'));
    expect(await second).toBe(true);
    expect(asked.value).toBeNull();
  });

  it('are not answered by a second click on the one before', async () => {
    const first = askSure('One?', 'text', 'Do it');
    const second = askSure('Two?', 'text', 'Do it');
    const entry = asked.value;
    entry?.give({ index: 0, text: '' });
    entry?.give({ index: 0, text: '' });
    expect(await first).toBe(true);
    expect(asked.value?.question.title).toBe('Two?');
    asked.value?.give(null);
    expect(await second).toBe(false);
  });

  it('that must be answered have no way round', async () => {
    const answer = { label: 'Yes', kind: 'main' } as const;
    const answered = ask({ title: 'Well?', answers: [answer], mustAnswer: true });
    await shows();
    expect(button('Cancel')).toBeUndefined();
    document.querySelector('.modal form')?.dispatchEvent(new Event('submit'));
    expect(await answered).toEqual({ index: 0, text: '' });
  });

  it('go back to the button of the menu they were asked from', async () => {
    document.body.insertAdjacentHTML(
      'beforeend',
      '<div id="m"><button aria-haspopup="menu">Batch</button><ul class="dropdown-menu"><li><button>Delete</button></li></ul></div>',
    );
    const [opener, entry] = document.querySelectorAll<HTMLButtonElement>('#m button');
    entry.focus();
    void askSure('Delete?', 'text', 'Delete');
    expect(asked.value?.from).toBe(opener);
    document.querySelector('#m')?.remove();
  });
});
