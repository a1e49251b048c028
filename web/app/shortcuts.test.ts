import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { settingsSchema } from '#core/contract/settings';
import { useLibrary } from './library.ts';
import { actionOf, meansSomething, useShortcuts } from './shortcuts.ts';

beforeEach(() => {
  setActivePinia(createPinia());
  document.body.innerHTML = `
    <header><a href="#" id="link">Marks</a></header>
    <main tabindex="-1"><div id="wall" tabindex="-1"></div><input id="field" />
      <input id="box" type="checkbox" /></main>`;
});
afterEach(() => (document.body.innerHTML = ''));

function pressed(key: string, id: string | null = 'wall', part: KeyboardEventInit = {}) {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, ...part });
  (id === null ? document.body : document.getElementById(id))?.dispatchEvent(event);
  return event;
}

describe('a single key', () => {
  it('does what it is set to, or what is usual', () => {
    expect(actionOf(pressed('t'))).toBe('tone');
    expect(actionOf(pressed('=', null))).toBe('larger');
    useLibrary().settings = settingsSchema.parse({ keys: { wipe: '=' } });
    expect(actionOf(pressed('='))).toBe('wipe');
    useLibrary().settings = settingsSchema.parse({ keys: { tone: 'k' } });
    expect(actionOf(pressed('t'))).toBe(null);
    expect(actionOf(pressed('k'))).toBe('tone');
    const listed = useShortcuts().value.find(({ does }) => does === 'next tone');
    expect(listed?.keys).toEqual(['k']);
  });

  it('means the mark only where the mark is, and nothing while somebody types', () => {
    for (const id of ['link', 'field']) expect(actionOf(pressed('t', id))).toBe(null);
    expect(actionOf(pressed('t', 'box'))).toBe('tone');
    expect(meansSomething(pressed('ArrowLeft', 'link'))).toBe(false);
    for (const part of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }]) {
      expect(actionOf(pressed('t', 'wall', part))).toBe(null);
    }
    document.body.insertAdjacentHTML('beforeend', '<div class="modal show"></div>');
    expect(actionOf(pressed('t'))).toBe(null);
  });

  it('can be switched off with all others; keys that write nothing stay', () => {
    useLibrary().settings = settingsSchema.parse({ singleKeys: false });
    expect(actionOf(pressed('t'))).toBe(null);
    expect(meansSomething(pressed('ArrowLeft'))).toBe(true);
    const listed = useShortcuts().value.flatMap(({ keys }) => keys);
    expect(listed).toContain('Esc');
    expect(listed).not.toContain('t');
  });
});
