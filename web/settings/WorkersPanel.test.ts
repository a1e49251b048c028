import { flushPromises, mount } from '@vue/test-utils';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { WorkersView, WorkerView } from '#core/contract/http';
import WorkersPanel from './WorkersPanel.vue';

const WORKER: WorkerView = {
  ...{ name: 'attic', host: 'attic.example', jobs: 2, doing: ['a.jpg', 'b.jpg'], made: 31 },
  ...{ photosAMinute: 12, problem: null, cannot: [] },
};

let answer: WorkersView | null | 'away';
let asked: number;
beforeEach(() => {
  vi.useFakeTimers();
  asked = 0;
  vi.stubGlobal('fetch', () => {
    asked++;
    if (answer === 'away') return Promise.reject(new TypeError('away'));
    return Promise.resolve(new Response(JSON.stringify(answer)));
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

async function shown() {
  const panel = mount(WorkersPanel);
  await flushPromises();
  const later = async (): Promise<string> => {
    await vi.advanceTimersByTimeAsync(2_000);
    await flushPromises();
    return panel.text();
  };
  return { panel, later };
}

it('is not there where the server makes all photos itself, and asks no more', async () => {
  answer = null;
  const { panel, later } = await shown();
  expect(panel.find('section').exists()).toBe(false);
  await later();
  await later();
  expect(asked).toBe(1);
});

it('says what each worker is at, and what keeps one from working', async () => {
  const apart = { ...WORKER, name: 'cellar', doing: [], made: 1, photosAMinute: 0 };
  answer = {
    ...{
      isConnected: true,
      roots: ['photos'],
      store: 's3://studio/passes/',
      storeProblem: 'Access Denied',
    },
    workers: [WORKER, { ...apart, problem: 'It has another version.', cannot: ['untouched'] }],
  };
  const { panel } = await shown();
  const [first, second] = panel.findAll('li').map((one) => one.text());
  expect(first).toContain('2 at once · 12 photos in the last minute · 31 files made');
  expect(first).toContain('at a.jpg, b.jpg');
  expect(second).toContain('2 at once · 1 file made');
  expect(second).toContain('It has another version.');
  expect(second).toContain('Leaves JPEGs that stay untouched to others.');
  expect(panel.text()).toContain('The store takes no photos (Access Denied).');
  expect(panel.find('code').text()).toContain('--root photos=FOLDER --store s3://studio/passes/');
});

it('says when nobody is there, when Redis is away, and when the server is', async () => {
  answer = { isConnected: true, roots: [], store: null, storeProblem: null, workers: [] };
  const { panel, later } = await shown();
  expect(panel.text()).toContain('None is there.');
  answer = { isConnected: false, roots: [], store: null, storeProblem: null, workers: [] };
  expect(await later()).toContain('does not answer. Photos are made by this machine.');
  answer = 'away';
  expect(await later()).toContain('The server does not answer; this is how it was.');
  answer = { isConnected: true, roots: [], store: null, storeProblem: null, workers: [WORKER] };
  expect(await later()).toContain('attic');
});
