import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Briefly } from './briefly.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const LASTS_MS = 200;
const briefly = () => new Briefly<string | null>(LASTS_MS, (problem) => problem === null);

it('looks once for all who ask within the time, by what they ask about', async () => {
  const looks = briefly();
  const look = vi.fn(() => Promise.resolve(null));
  await Promise.all([looks.of('/a', look), looks.of('/a', look), looks.of('/b', look)]);
  await looks.of('/a', look);
  expect(look).toHaveBeenCalledTimes(2);
});

it('looks again once the time is over', async () => {
  const looks = briefly();
  const look = vi.fn(() => Promise.resolve(null));
  await looks.of('/a', look);
  vi.advanceTimersByTime(LASTS_MS);
  await looks.of('/a', look);
  expect(look).toHaveBeenCalledTimes(2);
});

it('looks again at once after trouble, and after a look that failed', async () => {
  const looks = briefly();
  expect(await looks.of('/a', () => Promise.resolve('It is gone.'))).toBe('It is gone.');
  await expect(looks.of('/a', () => Promise.reject(new Error('no answer')))).rejects.toThrow();
  expect(await looks.of('/a', () => Promise.resolve(null))).toBeNull();
});
