import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { effectScope, type ComputedRef, type EffectScope } from 'vue';
import type { RunView } from '#core/contract/http';
import { useNotices } from '../app/notices.ts';
import { endText, useRunNews, useTellsEnd } from './useRunNews.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

/** The end of a run, told in the title and by the system while nobody looks. */

const hear: ((run: RunView) => void)[] = [];
vi.mock('../api/events.ts', () => ({
  onServerEvent: (what: string, listener: (run: RunView) => void) => {
    if (what === 'run') hear.push(listener);
  },
}));
vi.mock('./runs.ts', () => ({ useRuns: () => ({ underWay: [] }) }));

const run = (part: Partial<RunView> = {}): RunView =>
  ({
    id: 1,
    state: 'done',
    batchName: 'Bay',
    written: 3,
    skipped: 0,
    failed: 0,
    ...part,
  }) as RunView;
const told: string[] = [];
let scope: EffectScope;
let title: ComputedRef<string | null>;

class FakeNotification {
  static permission = 'granted';
  static requestPermission = () => Promise.resolve(FakeNotification.permission);
  onclick: (() => void) | null = null;
  constructor(_: string, { body }: { body: string }) {
    told.push(body);
  }
}

/** @param now whether the window can be seen */
function look(now: 'visible' | 'hidden'): void {
  Object.defineProperty(document, 'visibilityState', { value: now, configurable: true });
  document.dispatchEvent(new Event('visibilitychange'));
}

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  told.length = 0;
  hear.length = 0;
  FakeNotification.permission = 'granted';
  vi.stubGlobal('Notification', FakeNotification);
  look('visible');
  scope = effectScope();
  const news = scope.run(() => useRunNews());
  if (!news) throw new Error('no scope');
  title = news;
});
afterEach(() => {
  scope.stop();
  vi.unstubAllGlobals();
});

it('says it once in a notice, and nothing else while somebody looks', async () => {
  await useTellsEnd().toggle();
  const [tell] = hear;
  tell(run());
  tell(run());
  expect(useNotices().notices.map(({ text }) => text)).toEqual(['Bay: 3 files written.']);
  expect([title.value, told]).toEqual([null, []]);
});

it('stays in the title until somebody looks, and is told by the system if that is allowed', async () => {
  await useTellsEnd().toggle();
  look('hidden');
  await eventually(() => expect(document.visibilityState).toBe('hidden'));
  hear[0](run({ failed: 2 }));
  expect(title.value).toBe('2 failed');
  expect(told).toEqual(['Bay: 3 files written, 2 failed.']);
  look('visible');
  await eventually(() => expect(title.value).toBeNull());
});

it('is not told by the system where that was not asked for, or is refused', async () => {
  look('hidden');
  hear[0](run());
  FakeNotification.permission = 'denied';
  await useTellsEnd().toggle();
  expect(useTellsEnd().isOn.value).toBe(false);
  hear[0](run({ id: 2 }));
  expect(told).toEqual([]);
  expect(title.value).toBe('done');
});

it('is told again of a run that was taken up once more', () => {
  hear[0](run({ failed: 1 }));
  hear[0](run({ state: 'running' }));
  hear[0](run());
  expect(useNotices().notices).toHaveLength(2);
});

it('names what was skipped and what failed', () => {
  expect(endText(run({ written: 1, skipped: 2, failed: 3 }))).toBe(
    'Bay: 1 file written, 2 skipped, 3 failed.',
  );
});
