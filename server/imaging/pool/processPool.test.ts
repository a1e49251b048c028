import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setTimeout as delay } from 'node:timers/promises';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { eventually } from '../../../tests/helpers/eventually.ts';
import type { poolTasks } from '../../../tests/fixtures/poolTasks.ts';
import { ProcessEnded, ProcessPool } from './processPool.ts';

/** Processes that die, hang, swell and are killed, and what becomes of those who wait for them. */

const modulePath = fileURLToPath(new URL('../../../tests/fixtures/poolTasks.ts', import.meta.url));
const AMPLE = { timeMs: 60_000 };
const STARTING_MS = 120_000;

let pool: ProcessPool<typeof poolTasks>;
beforeEach(() => {
  pool = poolOf({});
});
afterEach(() => pool.close());

function poolOf(part: { mostProcesses?: number; mostBytes?: number; idleMs?: number }) {
  return new ProcessPool<typeof poolTasks>({
    ...{ modulePath, mostProcesses: 2, work: 'small pictures', mostBytes: 2e9 },
    ...part,
  });
}

async function endOf(work: Promise<unknown>): Promise<string> {
  try {
    await work;
    return 'answered';
  } catch (error) {
    return error instanceof ProcessEnded ? error.reason : `thrown: ${(error as Error).message}`;
  }
}

describe('a pool of processes', () => {
  it(
    'answers each question with its own answer, whichever comes first',
    async () => {
      const waits = [300, 10, 150, 0, 80, 20];
      const answers = await Promise.all(
        waits.map((ms, index) => pool.run('echo', [`question ${index}`, ms], AMPLE)),
      );
      expect(answers.map(({ value }) => value)).toEqual(
        waits.map((_, index) => `question ${index}`),
      );
      expect(new Set(answers.map(({ pid }) => pid)).size).toBe(2);
    },
    STARTING_MS,
  );

  it(
    'goes on with those that wait where all processes were killed',
    async () => {
      const hung = [0, 1].map(() => endOf(pool.run('spin', [], { timeMs: 300 })));
      const waiting = [0, 1, 2].map(() => endOf(pool.run('echo', ['after', 0], AMPLE)));
      expect(await Promise.all(hung)).toEqual(['time', 'time']);
      expect(await Promise.all(waiting)).toEqual(['answered', 'answered', 'answered']);
    },
    STARTING_MS,
  );

  it(
    'ends all that are called off, also before a process was there for them',
    async () => {
      const signal = AbortSignal.timeout(20);
      const asked = [0, 1, 2, 3].map(() =>
        endOf(pool.run('echo', ['no', 5_000], { ...AMPLE, signal })),
      );
      expect(new Set(await Promise.all(asked))).toEqual(new Set(['aborted']));
    },
    STARTING_MS,
  );

  it('passes on what a task throws, with the code of the system', async () => {
    const thrown = await pool.run('fail', ['The disk is full.'], AMPLE).catch((error) => error);
    expect(thrown).not.toBeInstanceOf(ProcessEnded);
    expect([thrown.message, thrown.code]).toEqual(['The disk is full.', 'ENOSPC']);
  });

  it(
    'tries a task whose process died once more, and only then gives it up',
    async () => {
      const folder = mkdtempSync(join(tmpdir(), 'light-crest-pool-'));
      const counter = join(folder, 'count');
      writeFileSync(counter, '0');
      expect(await pool.run('dieOnce', [counter], AMPLE)).toBe('done the second time');
      expect(readFileSync(counter, 'utf8')).toBe('2');
      rmSync(folder, { recursive: true });
      expect(await endOf(pool.run('die', [], AMPLE))).toBe('crash');
    },
    STARTING_MS,
  );

  it(
    'lets the others go on beside the one that brings processes down',
    async () => {
      const bad = endOf(pool.run('die', [], AMPLE));
      const good = await Promise.all(
        Array.from({ length: 8 }, (_, index) => pool.run('echo', [String(index), 30], AMPLE)),
      );
      expect(good.map(({ value }) => value).join('')).toBe('01234567');
      expect(await bad).toBe('crash');
    },
    STARTING_MS,
  );

  it(
    'kills what takes too long, though it never comes back to be asked, and replaces it',
    async () => {
      expect(await endOf(pool.run('spin', [], { timeMs: 300 }))).toBe('time');
      expect((await pool.run('echo', ['after', 0], AMPLE)).value).toBe('after');
    },
    STARTING_MS,
  );

  it(
    'kills a process that has been stopped',
    async () => {
      const { pid } = await pool.run('echo', ['x', 0], AMPLE);
      const waiting = endOf(pool.run('echo', ['y', 20_000], { timeMs: 600 }));
      await delay(50);
      process.kill(pid, 'SIGSTOP');
      expect(await waiting).toBe('time');
      expect((await pool.run('echo', ['after', 0], AMPLE)).value).toBe('after');
    },
    STARTING_MS,
  );

  it(
    'kills what takes more memory than it may',
    async () => {
      pool.close();
      pool = poolOf({ mostBytes: 400_000_000 });
      expect(await endOf(pool.run('swell', [], AMPLE))).toBe('memory');
      expect((await pool.run('echo', ['after', 0], AMPLE)).value).toBe('after');
    },
    STARTING_MS,
  );

  it(
    'has a limit of its own for a drawing within a task',
    async () => {
      const limits = { timeMs: 60_000, drawingMs: 1_000 };
      expect(await pool.run('draw', [150], limits)).toBe('drawn');
      expect(await endOf(pool.run('draw', [2_500], limits))).toBe('drawing');
    },
    STARTING_MS,
  );

  it(
    'does not notice by a failure that all its processes were killed while they idled',
    async () => {
      await Promise.all([pool.run('echo', ['a', 50], AMPLE), pool.run('echo', ['b', 50], AMPLE)]);
      const pids = pool.pids();
      expect(pids).toHaveLength(2);
      for (const pid of pids) process.kill(pid, 'SIGKILL');
      const answers = await Promise.all(
        ['c', 'd', 'e'].map((value) => pool.run('echo', [value, 0], AMPLE)),
      );
      expect(answers.map(({ value }) => value)).toEqual(['c', 'd', 'e']);
    },
    STARTING_MS,
  );

  it(
    'ends what is aborted, also before it was begun',
    async () => {
      const begun = new AbortController();
      const work = endOf(pool.run('echo', ['x', 20_000], { ...AMPLE, signal: begun.signal }));
      const early = AbortSignal.abort();
      expect(await endOf(pool.run('echo', ['y', 0], { ...AMPLE, signal: early }))).toBe('aborted');
      await pool.run('echo', ['z', 0], AMPLE);
      begun.abort();
      expect(await work).toBe('aborted');
    },
    STARTING_MS,
  );

  it(
    'ends its processes when nothing is asked for a while, and starts again',
    async () => {
      pool.close();
      pool = poolOf({ idleMs: 200 });
      const first = await pool.run('echo', ['a', 0], AMPLE);
      await eventually(() => expect(pool.pids()).toEqual([]));
      const second = await pool.run('echo', ['b', 0], AMPLE);
      expect(second.pid).not.toBe(first.pid);
    },
    STARTING_MS,
  );

  it(
    'leaves no process when it is closed, and says so to who waits',
    async () => {
      await pool.run('echo', ['a', 0], AMPLE);
      const [pid] = pool.pids();
      const waiting = endOf(pool.run('echo', ['b', 20_000], AMPLE));
      await delay(100);
      pool.close();
      expect(await waiting).toBe('closed');
      await eventually(() => expect(() => process.kill(pid, 0)).toThrow());
      expect(await endOf(pool.run('echo', ['c', 0], AMPLE))).toBe('closed');
    },
    STARTING_MS,
  );
});
