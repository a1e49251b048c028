import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FakeEventSource } from '../testing/fakeEventSource.ts';
import { listening, onReconnect } from './events.ts';

/** The stream of events as a page begins. */

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it('is waited for only a moment; where it comes later, all is asked for again', async () => {
  const askAgain = vi.fn();
  onReconnect(askAgain);
  const goOn = vi.fn();
  void listening().then(goOn);
  await vi.advanceTimersByTimeAsync(500);
  expect(goOn).not.toHaveBeenCalled();
  await vi.advanceTimersByTimeAsync(600);
  expect(goOn).toHaveBeenCalledOnce();
  expect(askAgain).not.toHaveBeenCalled();
  FakeEventSource.last.onopen?.();
  expect(askAgain).toHaveBeenCalledOnce();
});
