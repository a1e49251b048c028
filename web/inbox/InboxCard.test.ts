import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { InboxView } from '#core/contract/http';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { useLibrary } from '../app/library.ts';
import InboxCard from './InboxCard.vue';
import { useInboxes } from './inboxes.ts';

const INBOX: InboxView = {
  ...{ id: 3, name: 'Raw exports', folder: '/pictures/raw', presetIds: [1, 2], deliveryIds: [5] },
  ...{
    aside: null,
    isOn: true,
    problem: null,
    waiting: 0,
    taken: 4,
    unread: 0,
    written: 4,
    failed: 0,
  },
  lastRunId: 9,
};

let answers: Record<string, unknown>;
let asked: string[];
beforeEach(() => {
  setActivePinia(createPinia());
  asked = [];
  answers = {};
  vi.stubGlobal('fetch', (path: string, init: RequestInit = {}) => {
    asked.push(`${init.method ?? 'GET'} ${path}`);
    const answer = answers[path];
    if (answer === undefined) return Promise.reject(new TypeError('away'));
    return Promise.resolve(new Response(JSON.stringify(answer)));
  });
  const library = useLibrary();
  const preset = { markId: 1, rule: DEFAULT_RULE, updatedAt: '', favourite: false, uses: 0 };
  library.presets = ['Low right', 'Number'].map((name, index) => ({
    ...{ ...preset, id: index + 1, name, usedAt: null, version: 1, usedBy: [] },
  }));
  library.deliveries = [
    {
      ...{ id: 5, name: 'Web', presetId: null, overIds: [], rule: DEFAULT_DELIVERY, folder: null },
      ...{ subfolder: 'none', zip: false, favourite: true, version: 1 },
    },
  ];
});
afterEach(() => vi.unstubAllGlobals());

function shown(part: Partial<InboxView> = {}) {
  const stubs = { RouterLink: { template: '<a><slot /></a>' }, MenuButton: true };
  return mount(InboxCard, { props: { inbox: { ...INBOX, ...part } }, global: { stubs } });
}

describe('a watched folder', () => {
  it('says what it does with photos, and what became of them', () => {
    const text = shown().text();
    expect(text).toContain('Low right + Number, by Web');
    expect(text).toContain('4 photos taken · 4 files written');
    expect(text).toContain('watching');
    expect(text).not.toMatch(/failed|could not|on their way/);
    const busy = shown({ waiting: 2, failed: 1, unread: 3 }).text();
    expect(busy).toContain('2 on their way');
    expect(busy).toContain('1 failed');
    expect(busy).toContain('3 could not be read');
  });

  it('says what is in its way, and that it is off', () => {
    const held = shown({ problem: 'The disk is away.' });
    expect(held.get('[role="status"]').text()).toBe('The disk is away.');
    expect(held.text()).toContain('waiting');
    expect(shown({ isOn: false, problem: 'The disk is away.' }).text()).toContain('off');
  });

  it('is put off, and stays on where the server is away', async () => {
    const inboxes = useInboxes();
    answers['/api/inboxes/3'] = { ...INBOX, isOn: false };
    await shown().get('input').setValue(false);
    await flushPromises();
    expect(asked).toEqual(['PUT /api/inboxes/3']);
    expect(inboxes.inboxes).toMatchObject([{ id: 3, isOn: false }]);
    answers = {};
    await shown().get('input').setValue(false);
    await flushPromises();
    expect(inboxes.inboxes).toMatchObject([{ id: 3 }]);
  });

  it('lists what could not be read, with the place of each once', async () => {
    answers['/api/inboxes/3/unread'] = [
      { name: 'day 2/b.jpg', reason: 'b.jpg is not a photo.' },
      { name: 'c.jpg', reason: 'It cannot be read.' },
    ];
    const card = shown({ unread: 2 });
    await card.get('button[aria-expanded]').trigger('click');
    await flushPromises();
    expect(card.findAll('li').map((line) => line.text())).toEqual([
      'day 2/b.jpg is not a photo.',
      'c.jpg: It cannot be read.',
    ]);
    await card.get('button[aria-expanded]').trigger('click');
    expect(card.findAll('li')).toEqual([]);
  });
});
