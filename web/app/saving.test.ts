import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError } from '../api/client.ts';
import { noteAnswer, noteAway } from '../api/connection.ts';
import { later } from '../testing/fakeServer.ts';
import { asked } from '../ui/ask.ts';
import { chooseSide, saveOn } from './conflicts.ts';
import { useNotices } from './notices.ts';
import { useSaving, type SendOptions } from './saving.ts';

const AWAY = new ApiError('not-reached', 'The server does not answer.', {}, 0);
const REFUSED = new ApiError('invalid', 'Expected a name.', {}, 400);
const changedTo = (version: number) =>
  new ApiError('changed', 'P was changed in another window.', { version: String(version) }, 409);

let sent: [string, SendOptions['base']][];
let outcome: (value: string) => Promise<number | null>;
beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  sent = [];
  outcome = () => Promise.resolve(null);
});
afterEach(async () => {
  // Each store goes on trying; none of one test does in the next.
  outcome = () => Promise.resolve(null);
  await useSaving().flush();
  vi.useRealTimers();
});

function put(value: string, part: { key?: string; base?: number; restMs?: number } = {}) {
  const refused = vi.fn();
  const theirs = vi.fn();
  useSaving().put<string>({
    ...{ key: 'name', value, refused, theirs },
    ...part,
    send: (now, { base }) => {
      sent.push([now, base]);
      return outcome(now);
    },
  });
  return { refused, theirs };
}

const values = (): string[] => sent.map(([value]) => value);

describe('a value that is being saved', () => {
  it('is sent when the hand rests, the last of it alone', async () => {
    for (const value of ['8', '88', '888']) {
      put(value, { restMs: 400 });
      await vi.advanceTimersByTimeAsync(200);
    }
    expect(sent).toEqual([]);
    await vi.advanceTimersByTimeAsync(400);
    expect(values()).toEqual(['888']);
    expect(useSaving().waiting).toBe(0);
  });

  it('that changes while it is sent is sent once more, after that', async () => {
    const first = later<number | null>();
    outcome = () => first.promise;
    put('a');
    await vi.advanceTimersByTimeAsync(10);
    put('b');
    put('c');
    expect(values()).toEqual(['a']);
    outcome = () => Promise.resolve(null);
    first.give(null);
    await vi.advanceTimersByTimeAsync(10);
    expect(values()).toEqual(['a', 'c']);
    expect(useSaving().waiting).toBe(0);
  });

  it('goes out in the order in which the first change of each was made', async () => {
    put('1', { key: 'a' });
    put('2', { key: 'b' });
    put('3', { key: 'a' });
    await vi.advanceTimersByTimeAsync(10);
    expect(values()).toEqual(['3', '2']);
  });

  it('is made from the version that the one before it gave', async () => {
    outcome = () => Promise.resolve(8);
    const first = later<number | null>();
    outcome = () => first.promise;
    put('a', { base: 7 });
    await vi.advanceTimersByTimeAsync(10);
    put('b', { base: 7 });
    outcome = () => Promise.resolve(9);
    first.give(8);
    await vi.advanceTimersByTimeAsync(10);
    expect(sent).toEqual([
      ['a', 7],
      ['b', 8],
    ]);
  });
});

describe('where it fails', () => {
  it('waits and is tried again, each time after a longer while', async () => {
    outcome = () => Promise.reject(AWAY);
    put('a');
    await vi.advanceTimersByTimeAsync(10);
    await vi.advanceTimersByTimeAsync(1_000);
    await vi.advanceTimersByTimeAsync(1_000);
    expect(sent).toHaveLength(2);
    await vi.advanceTimersByTimeAsync(1_000);
    expect(sent).toHaveLength(3);
    expect(useSaving().failureOf('name')).toBe('The server does not answer.');
    expect(useNotices().notices).toEqual([]);
    outcome = () => Promise.resolve(null);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(useSaving().waiting).toBe(0);
  });

  it('is sent at once when the server answers again', async () => {
    outcome = () => Promise.reject(AWAY);
    put('a');
    await vi.advanceTimersByTimeAsync(10);
    noteAway();
    outcome = () => Promise.resolve(null);
    noteAnswer();
    await vi.advanceTimersByTimeAsync(1);
    expect(values()).toEqual(['a', 'a']);
  });

  it('counts a server that fails itself as one that may do better later', async () => {
    outcome = () => Promise.reject(new ApiError('internal', 'Disk full.', {}, 500));
    const { refused } = put('a');
    expect(await useSaving().flush()).toBe(false);
    expect(refused).not.toHaveBeenCalled();
    expect(useSaving().isWaiting('name')).toBe(true);
  });

  it('holds up nothing else where only this one fails', async () => {
    const broken = new ApiError('internal', 'Something went wrong.', {}, 500);
    outcome = (value) => (value === 'bad' ? Promise.reject(broken) : Promise.resolve(null));
    put('bad');
    put('good', { key: 'other' });
    await vi.advanceTimersByTimeAsync(10);
    expect(values()).toEqual(['bad', 'good']);
    expect(useSaving().isWaiting('name')).toBe(true);
    expect(useSaving().isWaiting('other')).toBe(false);
    await vi.advanceTimersByTimeAsync(1_000);
    expect(values()).toEqual(['bad', 'good', 'bad']);
  });

  it('asks once in a while, not for each value, while the server is away', async () => {
    outcome = () => {
      noteAway();
      return Promise.reject(AWAY);
    };
    put('a');
    put('b', { key: 'other' });
    await vi.advanceTimersByTimeAsync(900);
    expect(values()).toEqual(['a']);
    outcome = () => Promise.resolve(null);
    noteAnswer();
    await vi.advanceTimersByTimeAsync(1);
    expect(values()).toEqual(['a', 'a', 'b']);
  });

  it('sends what was changed meanwhile, not what failed', async () => {
    outcome = () => Promise.reject(AWAY);
    put('a');
    await vi.advanceTimersByTimeAsync(10);
    put('b');
    outcome = () => Promise.resolve(null);
    expect(await useSaving().flush()).toBe(true);
    expect(values().at(-1)).toBe('b');
  });
});

describe('where it is refused', () => {
  it('is told once, given back, and holds nothing else up', async () => {
    outcome = (value) => (value === 'bad' ? Promise.reject(REFUSED) : Promise.resolve(null));
    const { refused } = put('bad');
    put('good', { key: 'other' });
    expect(await useSaving().flush()).toBe(false);
    expect(values()).toEqual(['bad', 'good']);
    expect(refused).toHaveBeenCalledWith(REFUSED, 'bad');
    expect(useNotices().notices.map(({ text }) => text)).toEqual(['Expected a name.']);
    expect(await useSaving().flush()).toBe(true);
  });
});

/** As the buttons of the dialog do. */
function decide(side: 'mine' | 'theirs'): void {
  asked.value?.give({ index: side === 'theirs' ? 0 : 1, text: '' });
}

describe('where another window was first', () => {
  it('goes on from there, if this one is to be kept', async () => {
    outcome = () => Promise.reject(changedTo(12));
    put('mine', { base: 7 });
    const done = useSaving().flush();
    await vi.advanceTimersByTimeAsync(1);
    expect(asked.value?.question.text).toContain('another window');
    outcome = () => Promise.resolve(13);
    decide('mine');
    expect(await done).toBe(true);
    expect(sent).toEqual([
      ['mine', 7],
      ['mine', 12],
    ]);
  });

  it('gives way, if the other is to be taken over', async () => {
    outcome = () => Promise.reject(changedTo(12));
    const { theirs, refused } = put('mine', { base: 7 });
    const done = useSaving().flush();
    await vi.advanceTimersByTimeAsync(1);
    decide('theirs');
    expect(await done).toBe(false);
    expect(theirs).toHaveBeenCalledOnce();
    expect(refused).not.toHaveBeenCalled();
    expect(useSaving().waiting).toBe(0);
    expect(sent).toHaveLength(1);
  });
});

describe('leaving the page', () => {
  it('sends what waits on the way out, in its last state', async () => {
    put('first', { restMs: 5_000 });
    put('last', { restMs: 5_000 });
    window.dispatchEvent(new Event('pagehide'));
    expect(values()).toContain('last');
    expect(values()).not.toContain('first');
  });

  const leave = (): boolean => {
    const event = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(event);
    return event.defaultPrevented;
  };

  it('is asked about while one is behind another that is not answered yet', async () => {
    const first = later<number | null>();
    outcome = () => first.promise;
    put('a');
    await vi.advanceTimersByTimeAsync(10);
    expect(leave()).toBe(false);
    put('b', { restMs: 5_000 });
    expect(leave()).toBe(true);
    first.give(8);
    await vi.advanceTimersByTimeAsync(10);
    expect(leave()).toBe(false);
  });

  it('is asked about where nobody would take it', () => {
    put('a', { restMs: 5_000 });
    expect(leave()).toBe(false);
    noteAway();
    expect(leave()).toBe(true);
    noteAnswer();
  });
});

describe('questions of conflicts', () => {
  it('are asked one after the other', async () => {
    const first = chooseSide('one');
    const second = chooseSide('two');
    await vi.advanceTimersByTimeAsync(1);
    expect(asked.value?.question.text).toBe('one');
    decide('mine');
    expect(await first).toBe('mine');
    await vi.advanceTimersByTimeAsync(1);
    expect(asked.value?.question.text).toBe('two');
    decide('theirs');
    expect(await second).toBe('theirs');
    expect(asked.value).toBe(null);
  });

  it('are asked again where a third window was quicker', async () => {
    const bases: number[] = [];
    const saved = saveOn(1, (base) => {
      bases.push(base);
      return base < 3 ? Promise.reject(changedTo(base + 1)) : Promise.resolve('saved');
    });
    for (let times = 0; times < 2; times++) {
      await vi.advanceTimersByTimeAsync(1);
      decide('mine');
    }
    expect(await saved).toBe('saved');
    expect(bases).toEqual([1, 2, 3]);
    await expect(saveOn(1, () => Promise.reject(REFUSED))).rejects.toBe(REFUSED);
  });
});
