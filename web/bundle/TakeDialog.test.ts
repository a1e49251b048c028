import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { BundleView, TakeBundleWish } from '#core/contract/http';
import TakeDialog from './TakeDialog.vue';

const BUNDLE: BundleView = {
  ...{ key: 'k', madeAt: '' },
  entries: [
    { kind: 'marks', key: '1', name: 'Crest', state: 'new' },
    { kind: 'presets', key: '1', name: 'Low right', state: 'taken' },
    { kind: 'deliveries', key: '1', name: 'Web', state: 'same' },
  ],
};

let answer: Response | null;
let sent: TakeBundleWish[];
beforeEach(() => {
  setActivePinia(createPinia());
  [answer, sent] = [null, []];
  vi.stubGlobal('fetch', (path: string, init: RequestInit = {}) => {
    if (path !== '/api/bundles/k') return Promise.reject(new TypeError('away'));
    sent.push(JSON.parse(String(init.body)) as TakeBundleWish);
    return answer ? Promise.resolve(answer) : Promise.reject(new TypeError('away'));
  });
});
afterEach(() => vi.unstubAllGlobals());

function shown() {
  const stubs = { BModal: { template: '<div><slot /></div>' } };
  return mount(TakeDialog, { props: { bundle: BUNDLE, modelValue: true }, global: { stubs } });
}
const decided = (): string[] =>
  sent[0].decisions.map(({ kind, decision }) => `${kind} ${decision}`);

describe('a bundle that is taken in', () => {
  it('touches nothing that is there, unless it is decided so', async () => {
    answer = Response.json({ added: 2, replaced: 0, left: 1, problems: [] });
    const dialog = shown();
    expect(dialog.text()).toContain('there already');
    await dialog.get('.btn-primary').trigger('click');
    await flushPromises();
    expect(decided()).toEqual(['marks add', 'presets add', 'deliveries leave']);
    expect(dialog.get('[role="status"]').text()).toBe('2 things taken in, 1 left.');
  });

  it('goes by what was decided for each, and says what could not be taken', async () => {
    const problems = ['Low right: its mark was not taken.'];
    answer = Response.json({ added: 0, replaced: 1, left: 1, problems });
    const dialog = shown();
    const [marks, presets] = dialog.findAll('[role="radiogroup"]');
    await marks.findAll('button')[1].trigger('click');
    await presets.findAll('button')[1].trigger('click');
    await dialog.get('.btn-primary').trigger('click');
    await flushPromises();
    expect(decided()).toEqual(['marks leave', 'presets replace', 'deliveries leave']);
    expect(dialog.text()).toContain('its mark was not taken');
    expect(dialog.text()).toContain('1 in the place of what was there');
  });

  it('stays as it was decided where the server is away, and has nothing to take where all is left', async () => {
    const dialog = shown();
    await dialog.get('.btn-primary').trigger('click');
    await flushPromises();
    expect(dialog.get('[role="alert"]').text()).toContain('does not answer');
    expect(dialog.get('.btn-primary').attributes('disabled')).toBeUndefined();
    for (const group of dialog.findAll('[role="radiogroup"]')) {
      await group.findAll('button').at(-1)?.trigger('click');
    }
    expect(dialog.get('.btn-primary').attributes('disabled')).toBeDefined();
  });
});
