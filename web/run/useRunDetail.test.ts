import { createPinia, setActivePinia } from 'pinia';
import { effectScope, type EffectScope } from 'vue';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { RunDetailView, RunItemView, RunView } from '#core/contract/http';
import { FakeEventSource } from '../testing/fakeEventSource.ts';
import { fakeServer, later } from '../testing/fakeServer.ts';
import { useRuns } from './runs.ts';
import { useRunDetail } from './useRunDetail.ts';

/** A run on the screen while it goes on: what is asked for, and what is shown of the answers. */

const run = (told: number, state: RunView['state'] = 'running') =>
  ({ id: 7, told, state, deliveries: [], documents: [] }) as unknown as RunView;
const item = (number: number, status: RunItemView['status'] = 'written') =>
  ({ id: 100 + number, number, delivery: 1, status }) as RunItemView;
const answer = (told: number, items: readonly RunItemView[], change: number): RunDetailView => ({
  ...{ run: run(told), items, change, addedSince: 0 },
});

let scope: EffectScope;
let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  scope = effectScope();
  server = fakeServer({ 'GET /runs': [run(1)], 'GET /runs/7?since=0': answer(2, [item(2)], 1) });
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
});

async function opened() {
  await useRuns().load();
  const detail = scope.run(() => useRunDetail(() => 7)) as ReturnType<typeof useRunDetail>;
  await vi.advanceTimersByTimeAsync(10);
  return detail;
}
const details = (): string[] =>
  server.asked.filter(({ path }) => path.startsWith('/runs/7')).map(({ path }) => path);
const numbers = ({ items }: ReturnType<typeof useRunDetail>): number[] =>
  items.value.map(({ number }) => number);

it('asks only for what changed since, and keeps the order of the run', async () => {
  server.set('GET /runs/7?since=1', answer(12, [item(1), item(3)], 3));
  const shown = await opened();
  FakeEventSource.last.tell('run', run(11));
  await vi.advanceTimersByTimeAsync(1_000);
  expect(details()).toEqual(['/runs/7?since=0', '/runs/7?since=1']);
  expect(numbers(shown)).toEqual([1, 2, 3]);
});

it('asks for nothing while nothing happens', async () => {
  await opened();
  await vi.advanceTimersByTimeAsync(10_000);
  expect(details()).toHaveLength(1);
});

it('shows an output that begins anew as it is now', async () => {
  server.set('GET /runs/7?since=1', answer(12, [item(2, 'waiting')], 2));
  const shown = await opened();
  FakeEventSource.last.tell('run', run(11));
  await vi.advanceTimersByTimeAsync(1_000);
  expect(shown.items.value.map(({ status }) => status)).toEqual(['waiting']);
});

it('waits for a slow answer, however often the run is told of meanwhile', async () => {
  const slow = later<RunDetailView>();
  server.set('GET /runs/7?since=1', () => slow.promise);
  server.set('GET /runs/7?since=2', answer(40, [item(4)], 3));
  const shown = await opened();
  for (let told = 11; told < 16; told++) {
    FakeEventSource.last.tell('run', run(told));
    await vi.advanceTimersByTimeAsync(1_000);
  }
  expect(details()).toHaveLength(2);
  slow.give(answer(12, [item(3)], 2));
  await vi.advanceTimersByTimeAsync(2_000);
  expect(numbers(shown)).toEqual([2, 3, 4]);
});

it('asks for all of it when the line was down', async () => {
  const shown = await opened();
  FakeEventSource.last.onopen?.();
  server.set('GET /runs/7?since=0', answer(20, [item(5)], 1));
  FakeEventSource.last.onopen?.();
  await vi.advanceTimersByTimeAsync(1_000);
  expect(numbers(shown)).toEqual([5]);
});
