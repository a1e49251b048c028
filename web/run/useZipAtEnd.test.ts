import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { RunDeliveryView, RunView, RunWish } from '#core/contract/http';
import { FakeEventSource } from '../testing/fakeEventSource.ts';
import { fakeServer } from '../testing/fakeServer.ts';
import { useRuns } from './runs.ts';

/** What is downloaded by itself when a run has ended, in which window, and how often. */

let downloaded: string[];
let told: number;
beforeEach(() => {
  sessionStorage.clear();
  setActivePinia(createPinia());
  told = 0;
  downloaded = [];
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (
    this: HTMLAnchorElement,
  ) {
    downloaded.push(this.getAttribute('href') ?? '');
  });
});
afterEach(() => vi.restoreAllMocks());

const run = (part: Partial<RunView>, zip = true) =>
  ({
    ...{ id: 7, state: 'running', written: 0, told: ++told, documents: [], batchName: 'b' },
    deliveries: [{ name: 'Web', zip } as RunDeliveryView],
    ...part,
  }) as RunView;
const ZIP = '/api/runs/7/zip?of=zip';

async function begun(answer: RunView) {
  const server = fakeServer({ 'GET /runs': [], 'POST /runs': answer });
  const runs = useRuns();
  await runs.load();
  await runs.begin({} as RunWish);
  return { runs, server };
}

it('is downloaded once, when the run has ended', async () => {
  await begun(run({}));
  FakeEventSource.last.tell('run', run({ written: 2 }));
  expect(downloaded).toEqual([]);
  FakeEventSource.last.tell('run', run({ state: 'done', written: 3 }));
  FakeEventSource.last.tell('run', run({ state: 'done', written: 3 }));
  expect(downloaded).toEqual([ZIP]);
});

it('is not for deliveries that do not wish it, for other windows, nor for what came to nothing', async () => {
  await begun(run({}, false));
  FakeEventSource.last.tell('run', run({ state: 'done', written: 3 }, false));
  FakeEventSource.last.tell('run', run({ id: 8, state: 'done', written: 3 }));
  expect(downloaded).toEqual([]);
  await begun(run({ id: 9 }));
  FakeEventSource.last.tell('run', run({ id: 9, state: 'cancelled', written: 3 }));
  await begun(run({ id: 10 }));
  FakeEventSource.last.tell('run', run({ id: 10, state: 'done', written: 0 }));
  expect(downloaded).toEqual([]);
});

it('comes where the end was told before the answer to the beginning', async () => {
  const answer = run({});
  const ended = run({ state: 'done', written: 1 });
  fakeServer({
    'GET /runs': [],
    'POST /runs': () => {
      FakeEventSource.last.tell('run', ended);
      return answer;
    },
  });
  const runs = useRuns();
  await runs.load();
  await runs.begin({} as RunWish);
  expect(downloaded).toEqual([ZIP]);
});

it('comes where the run ended while the window was loaded anew', async () => {
  await begun(run({}));
  setActivePinia(createPinia());
  fakeServer({ 'GET /runs': [run({ state: 'done', written: 2 })] });
  await useRuns().load();
  expect(downloaded).toEqual([ZIP]);
});
