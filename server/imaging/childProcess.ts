import { fork, type ChildProcess } from 'node:child_process';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

/**
 * How a child takes memory for pixels from the system. Huge pages save a fifth of the time of an
 * export at full size, which otherwise goes into tens of thousands of page faults; few arenas keep
 * what is freed from lying about. C libraries other than glibc ignore both.
 */
const MEMORY_SETTINGS = {
  GLIBC_TUNABLES: 'glibc.malloc.hugetlb=1',
  MALLOC_ARENA_MAX: '2',
};

/** For small pictures, where clearing huge pages costs more than it saves. */
const SMALL_MEMORY_SETTINGS = { MALLOC_ARENA_MAX: '2' };

/** What a child mostly holds: whole photos, or small pictures. */
export type ChildWork = 'photos' | 'small pictures';

/**
 * Pixels lie outside of the heap, and little else is made while they are worked on: a small young
 * generation costs no time and saves some 50 MB a child.
 */
const HEAP_SETTING = '--max-semi-space-size=2';

/** Starts a TypeScript module of ours as a process of its own, however this one was started. */
export function forkModule(modulePath: string, work: ChildWork = 'photos'): ChildProcess {
  const loader = pathToFileURL(createRequire(import.meta.url).resolve('tsx')).href;
  return fork(modulePath, {
    execArgv: [HEAP_SETTING, '--import', loader],
    // Raw pixels travel as typed arrays; JSON would take seconds.
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      ...process.env,
      ...(work === 'photos' ? MEMORY_SETTINGS : SMALL_MEMORY_SETTINGS),
    },
  });
}

interface Waiting {
  readonly resolve: (answer: unknown) => void;
  readonly reject: (error: Error) => void;
  readonly timer: NodeJS.Timeout;
}

/** The work took longer than allowed, and its process was killed. */
export class TimedOut extends Error {}

/**
 * An idle child holds some 80 MB; starting it again takes a second, which is felt where a picture
 * is asked for after a moment's thought.
 */
const IDLE_MS = 60_000;

/** What starting may take on a busy machine. */
const START_MS = 8_000;

/**
 * One request at a time to a child process that is started when first needed, ended when it has been idle
 * for a while or a request takes too long, and started again for the next. The child answers each message with one message.
 */
export class KillableWorker<Request extends object, Answer> {
  private child: ChildProcess | null = null;
  private waiting: Waiting | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  private idle: NodeJS.Timeout | null = null;

  constructor(
    private readonly modulePath: string,
    private readonly timeoutMs: number,
  ) {}

  ask(request: Request): Promise<Answer> {
    const answer = this.queue.then(() => this.send(request));
    this.queue = answer.catch(() => undefined);
    return answer;
  }

  close(): void {
    if (this.idle) clearTimeout(this.idle);
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  private send(request: Request): Promise<Answer> {
    if (this.idle) clearTimeout(this.idle);
    // A process that has to be started first is given time for that, too.
    const allowedMs = this.timeoutMs + (this.child ? 0 : START_MS);
    const child = this.running();
    return new Promise<Answer>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.settle()?.reject(new TimedOut(`took longer than ${this.timeoutMs / 1000} s`));
        this.close();
      }, allowedMs);
      this.waiting = { resolve: resolve as (answer: unknown) => void, reject, timer };
      child.send(request);
    });
  }

  private running(): ChildProcess {
    if (this.child) return this.child;
    const child = forkModule(this.modulePath);
    this.child = child;
    child.on('message', (answer) => this.settle()?.resolve(answer));
    child.on('exit', () => {
      // A process that was killed ends a little later; by then the next may be at work.
      if (this.child !== child) return;
      this.child = null;
      this.settle()?.reject(new Error('the drawing process ended unexpectedly'));
    });
    // The parent may end while the child idles; only a pending request keeps both alive.
    child.unref();
    child.channel?.unref();
    return child;
  }

  private settle(): Waiting | null {
    const waiting = this.waiting;
    this.waiting = null;
    if (!waiting) return null;
    clearTimeout(waiting.timer);
    this.idle = setTimeout(() => this.close(), IDLE_MS).unref();
    return waiting;
  }
}
