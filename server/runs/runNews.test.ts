import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { RunNews } from './runNews.ts';

let state: string | null;
let told: number[];
/** What it takes to tell. */
let takesMs: number;
let news: RunNews;
beforeEach(() => {
  vi.useFakeTimers();
  [state, told, takesMs] = ['running', [], 0];
  news = new RunNews(
    () => state as never,
    (runId) => {
      vi.advanceTimersByTime(takesMs);
      told.push(runId);
    },
    (runId) => news.of(runId),
  );
});
afterEach(() => void vi.useRealTimers());

it('tells the first at once, and of many steps the last a moment later', () => {
  for (let step = 0; step < 50; step++) news.of(7);
  expect(told).toEqual([7]);
  vi.advanceTimersByTime(150);
  expect(told).toEqual([7, 7]);
  vi.advanceTimersByTime(1_000);
  expect(told).toEqual([7, 7]);
});

it('tells another state at once, and other runs by themselves', () => {
  news.of(7);
  news.of(8);
  state = 'done';
  news.of(7);
  expect(told).toEqual([7, 8, 7]);
  vi.advanceTimersByTime(1_000);
  expect(told).toEqual([7, 8, 7]);
});

it('says nothing of a run that is gone', () => {
  state = null;
  news.of(7);
  expect(told).toEqual([]);
});

it('tells less often where that takes its time, so that it never fills more than a twentieth', () => {
  takesMs = 50;
  news.of(7);
  news.of(7);
  vi.advanceTimersByTime(900);
  expect(told).toEqual([7]);
  vi.advanceTimersByTime(200);
  expect(told).toEqual([7, 7]);
});
