import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { OneAtATime } from './oneAtATime.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('leaves out what comes while it is at work, and tells what failed', async () => {
  const [once, failures] = [new OneAtATime(), [] as unknown[]];
  const failed = (error: unknown): void => void failures.push(error);
  let done = (): void => undefined;
  let began = 0;
  const work = (): Promise<void> => {
    began++;
    return new Promise((resolve) => (done = resolve));
  };
  const first = once.run(work, failed);
  await once.run(work, failed);
  expect(began).toBe(1);
  done();
  await first;
  await once.run(() => Promise.reject(new Error('away')), failed);
  expect(failures).toEqual([new Error('away')]);
  void once.run(work, failed);
  expect(began).toBe(2);
});

it('begins anew where the last time never ends', async () => {
  const once = new OneAtATime();
  let began = 0;
  const never = (): Promise<void> => {
    began++;
    return new Promise(() => undefined);
  };
  void once.run(never, () => undefined);
  await vi.advanceTimersByTimeAsync(9_000);
  void once.run(never, () => undefined);
  expect(began).toBe(1);
  await vi.advanceTimersByTimeAsync(2_000);
  void once.run(never, () => undefined);
  expect(began).toBe(2);
});
