import { vi } from 'vitest';

/** No test is there to hold a speed: what is expected may come late on a busy machine. */
const LATEST_MS = 45_000;

/** Checks again and again until it holds; fails with the last failure where it never does. */
export function eventually<T>(check: () => T | Promise<T>): Promise<T> {
  return vi.waitFor(check, { timeout: LATEST_MS, interval: 10 });
}
