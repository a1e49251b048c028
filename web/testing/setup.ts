import { beforeEach } from 'vitest';
import { asked } from '../ui/ask.ts';
import { FakeEventSource } from './fakeEventSource.ts';

/** What browsers have and the test's document has not. */
globalThis.EventSource = FakeEventSource as unknown as typeof EventSource;

beforeEach(() => {
  localStorage.clear();
  // Questions are the page's, not a store's: what an earlier test left open is answered.
  while (asked.value) asked.value.give({ index: 0, text: '' });
});
