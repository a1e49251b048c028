import { beforeEach } from 'vitest';
import { FakeEventSource } from './fakeEventSource.ts';

/** What browsers have and the test's document has not. */
globalThis.EventSource = FakeEventSource as unknown as typeof EventSource;

beforeEach(() => localStorage.clear());
