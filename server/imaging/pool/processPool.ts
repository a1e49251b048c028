import type { ChildProcess } from 'node:child_process';
import pLimit from 'p-limit';
import workerpool, { type Pool } from 'workerpool';
import { forkSettings, type ProcessWork } from './forkSettings.ts';
import { isPoolEnd } from './isPoolEnd.ts';
import { residentBytes } from './residentBytes.ts';
import type { ProcessEvent } from './servePool.ts';

/**
 * Work in processes that can be killed. A process does one task at a time, so that whatever it dies
 * of is known by its task. The library starts, numbers and replaces; what is added here are limits of
 * time and memory, an end when nothing is asked for a while, and a second try for a task whose process
 * died: it may have been killed for what another one took.
 */
export interface PoolOptions {
  readonly modulePath: string;
  readonly mostProcesses: number;
  readonly work: ProcessWork;
  /** Resident bytes at which a process is killed, whatever it is at. */
  readonly mostBytes: number;
  /** Without a task for this long, the processes are ended. */
  readonly idleMs?: number;
}

export interface TaskLimits {
  /** From the moment the task begins. */
  readonly timeMs: number;
  /** For one drawing of a mark within the task. */
  readonly drawingMs?: number;
  /** Ends the task, and the process it runs in. */
  readonly signal?: AbortSignal | undefined;
}

export type EndReason = 'time' | 'memory' | 'drawing' | 'crash' | 'closed' | 'aborted';

/** The process of a task ended before it answered. */
export class ProcessEnded extends Error {
  constructor(
    readonly reason: EndReason,
    readonly limits: TaskLimits,
    readonly mostBytes: number,
  ) {
    super(`The process of the task ended early (${reason}).`);
  }
}

/** The functions a process offers, by name. */
export type TaskTable = Record<string, (...values: never[]) => Promise<unknown>>;

/** An idle process holds some 80 MB; starting it again takes a moment, which is felt. */
const IDLE_MS = 60_000;
/** What starting may take on a busy machine, after which the process is given up. */
const START_MS = 30_000;
const MEMORY_LOOK_MS = 200;
/** Tries that never reached a living process: those of a pool may all have been killed at once. */
const MOST_UNBEGUN = 8;

interface RunningTask {
  readonly limits: TaskLimits;
  pid: number | null;
  endedBy: EndReason | null;
  drawings: number;
  timer: NodeJS.Timeout | null;
  drawingTimer: NodeJS.Timeout | null;
}

type Attempt =
  | { readonly kind: 'answer'; readonly value: unknown }
  | { readonly kind: 'error'; readonly error: unknown }
  | { readonly kind: 'ended'; readonly reason: EndReason; readonly hadBegun: boolean };

export class ProcessPool<Tasks extends TaskTable> {
  private pool: Pool | null = null;
  private readonly running = new Set<RunningTask>();
  private readonly oneByOne = pLimit(1);
  /**
   * As many tasks as processes are given to the library: what waits there is forgotten when processes
   * are killed.
   */
  private readonly slots: ReturnType<typeof pLimit>;
  private asked = 0;
  private idleTimer: NodeJS.Timeout | null = null;
  private memoryTimer: NodeJS.Timeout | null = null;
  private isClosed = false;

  constructor(private readonly options: PoolOptions) {
    this.slots = pLimit(options.mostProcesses);
  }

  /** @throws ProcessEnded where no process could answer; what the task throws, as an Error */
  async run<Name extends keyof Tasks & string>(
    name: Name,
    values: Parameters<Tasks[Name]>,
    limits: TaskLimits,
  ): Promise<Awaited<ReturnType<Tasks[Name]>>> {
    this.asked++;
    if (this.idleTimer) clearTimeout(this.idleTimer);
    try {
      let attempt = await this.begun(name, values, limits);
      if (attempt.kind === 'ended' && attempt.reason === 'crash') {
        attempt = await this.oneByOne(() => this.begun(name, values, limits));
      }
      if (attempt.kind === 'answer') return attempt.value as Awaited<ReturnType<Tasks[Name]>>;
      if (attempt.kind === 'error') throw attempt.error;
      throw new ProcessEnded(attempt.reason, limits, this.options.mostBytes);
    } finally {
      this.asked--;
      if (this.asked === 0) this.endWhenIdle();
    }
  }

  /** Process ids of the moment. */
  pids(): number[] {
    return this.children().flatMap(({ pid }) => pid ?? []);
  }

  close(): void {
    this.isClosed = true;
    if (this.idleTimer) clearTimeout(this.idleTimer);
    for (const task of this.running) this.end(task, 'closed');
    for (const child of this.children()) child.kill('SIGKILL');
    this.pool = null;
  }

  /** Until a process has taken the task up: one that died while it idled is only found out by asking. */
  private async begun(name: string, values: unknown[], limits: TaskLimits): Promise<Attempt> {
    for (let tries = 1; ; tries++) {
      const attempt = await this.slots(() => this.attempt(name, values, limits));
      const isUnbegun = attempt.kind === 'ended' && attempt.reason === 'crash' && !attempt.hadBegun;
      if (!isUnbegun || tries === MOST_UNBEGUN) return attempt;
    }
  }

  private attempt(name: string, values: unknown[], limits: TaskLimits): Promise<Attempt> {
    if (this.isClosed) return Promise.resolve({ kind: 'ended', reason: 'closed', hadBegun: false });
    const { signal } = limits;
    if (signal?.aborted) {
      return Promise.resolve({ kind: 'ended', reason: 'aborted', hadBegun: false });
    }
    const task: RunningTask = {
      ...{ limits, pid: null, endedBy: null, drawings: 0, timer: null, drawingTimer: null },
    };
    this.running.add(task);
    this.watchMemory();
    const on = (event: ProcessEvent): void => this.take(task, event);
    const asked = this.opened().exec('work', [name, values], { on });
    asked.timeout(START_MS + limits.timeMs);
    const abort = (): void => this.end(task, 'aborted');
    signal?.addEventListener('abort', abort);
    return new Promise<Attempt>((done) => {
      const settle = (attempt: Attempt): void => {
        signal?.removeEventListener('abort', abort);
        this.release(task);
        done(attempt);
      };
      asked.then(
        (value: unknown) => settle({ kind: 'answer', value }),
        (error: unknown) => settle(this.attemptOf(task, error)),
      );
    });
  }

  private attemptOf(task: RunningTask, error: unknown): Attempt {
    const hadBegun = task.pid !== null;
    if (task.endedBy) return { kind: 'ended', reason: task.endedBy, hadBegun };
    if (this.isClosed) return { kind: 'ended', reason: 'closed', hadBegun };
    if (error instanceof workerpool.Promise.TimeoutError) {
      return { kind: 'ended', reason: 'time', hadBegun };
    }
    if (error instanceof workerpool.TerminateError || isPoolEnd(error)) {
      return { kind: 'ended', reason: 'crash', hadBegun };
    }
    return { kind: 'error', error };
  }

  private take(task: RunningTask, event: ProcessEvent): void {
    if (event.kind === 'begun') {
      task.pid = event.pid;
      // Ended while it was still waiting for a process.
      if (task.endedBy) return this.end(task, task.endedBy);
      task.timer = setTimeout(() => this.end(task, 'time'), task.limits.timeMs);
      return;
    }
    task.drawings += event.kind === 'drawing' ? 1 : -1;
    if (task.drawingTimer) clearTimeout(task.drawingTimer);
    task.drawingTimer = null;
    const { drawingMs } = task.limits;
    if (task.drawings > 0 && drawingMs !== undefined) {
      task.drawingTimer = setTimeout(() => this.end(task, 'drawing'), drawingMs);
    }
  }

  private end(task: RunningTask, reason: EndReason): void {
    task.endedBy = reason;
    this.children()
      .find(({ pid }) => pid === task.pid)
      ?.kill('SIGKILL');
  }

  private release(task: RunningTask): void {
    this.running.delete(task);
    if (task.timer) clearTimeout(task.timer);
    if (task.drawingTimer) clearTimeout(task.drawingTimer);
    if (this.running.size === 0 && this.memoryTimer) {
      clearInterval(this.memoryTimer);
      this.memoryTimer = null;
    }
  }

  private watchMemory(): void {
    this.memoryTimer ??= setInterval(() => {
      for (const task of this.running) {
        if (task.pid === null || task.endedBy) continue;
        if (residentBytes(task.pid) > this.options.mostBytes) this.end(task, 'memory');
      }
    }, MEMORY_LOOK_MS).unref();
  }

  private opened(): Pool {
    const { modulePath, mostProcesses, work } = this.options;
    this.pool ??= workerpool.pool(modulePath, {
      workerType: 'process',
      maxWorkers: mostProcesses,
      forkOpts: forkSettings(modulePath, work),
    });
    return this.pool;
  }

  private endWhenIdle(): void {
    this.idleTimer = setTimeout(() => {
      const { pool } = this;
      this.pool = null;
      pool?.terminate().then(
        () => undefined,
        () => undefined,
      );
    }, this.options.idleMs ?? IDLE_MS).unref();
  }

  /** The library keeps them to itself, and ends a process that hangs only by asking it to. */
  private children(): ChildProcess[] {
    const handlers = (this.pool as unknown as { workers: { worker: ChildProcess | null }[] } | null)
      ?.workers;
    return (handlers ?? []).flatMap(({ worker }) => worker ?? []);
  }
}
