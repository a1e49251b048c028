import { setTimeout as rest } from 'node:timers/promises';
import type { FoundFile } from './folderSweep.ts';
import { sweepFolder } from './folderSweep.ts';

/** How long a file must not change before it counts as written. */
const STILL_MS = 2_000;
/** A file that cannot be read is waited for so long since it last changed: its writer may be slow. */
const PATIENCE_MS = 10_000;
/** Between two looks into the folder, at least. */
const LOOK_EACH_MS = 1_000;
/** A large folder is not looked at all the time: a look may take a fifth of it. */
const REST_TIMES = 4;

/** `again`: it could not be read, and may still be on its way. */
export type Handled = 'done' | 'again';

export interface WatchDuties {
  /** Whether a file, as it lies there, needs nothing any more. */
  readonly isDone: (file: FoundFile) => boolean;
  /** @param isLast nothing is waited for any more: what cannot be read now is a failure */
  readonly handle: (file: FoundFile, isLast: boolean) => Promise<Handled>;
  /** The folder cannot be looked into; null: it can again. Told when that changes. */
  readonly away: (reason: string | null) => void;
  /** Nothing is handed out while this says no. */
  readonly mayBegin?: () => Promise<boolean>;
}

/** What is known of a file that is not done. */
interface Waiting {
  readonly bytes: number;
  readonly modifiedMs: number;
  /** Since when it has been like that. */
  readonly sinceMs: number;
  isInWork: boolean;
  wasTried: boolean;
}

/**
 * Looks into a folder again and again, and hands out each photo once it rests. It looks instead of being
 * told: shares on other computers tell nothing, and a disk that was away is simply there again.
 */
export class FolderWatch {
  private readonly waiting = new Map<string, Waiting>();
  private readonly inWork = new Set<Promise<void>>();
  private readonly end = new AbortController();
  private isAway = false;

  constructor(
    private readonly folder: string,
    private readonly duties: WatchDuties,
    private readonly pace: Partial<Pace> = {},
  ) {}

  /** Until `stop`; what is in work then is waited for. */
  async run(): Promise<void> {
    const { signal } = this.end;
    while (!signal.aborted) {
      const startMs = performance.now();
      // Whatever fails is looked at again: a watch that ended by itself would be missed too late.
      await this.look().catch((error: unknown) => this.setAway((error as Error).message));
      const tookMs = performance.now() - startMs;
      const restMs = Math.max(this.pace.lookEachMs ?? LOOK_EACH_MS, REST_TIMES * tookMs);
      await rest(restMs, undefined, { signal }).catch(() => undefined);
    }
    while (this.inWork.size > 0) await Promise.all(this.inWork);
  }

  /** Nothing new is begun. */
  stop(): void {
    this.end.abort();
  }

  /** Files that are still being written, or wait for their turn. */
  get waitingCount(): number {
    return this.waiting.size;
  }

  private async look(): Promise<void> {
    const found = await sweepFolder(this.folder);
    this.setAway(found.ok ? null : found.reason);
    if (!found.ok) return;
    const there = new Set(found.value.map(({ name }) => name));
    for (const [name, { isInWork }] of this.waiting) {
      if (!there.has(name) && !isInWork) this.waiting.delete(name);
    }
    const ready = found.value.filter((file) => this.rests(file));
    if (ready.length === 0 || !((await this.duties.mayBegin?.()) ?? true)) return;
    for (const file of ready) {
      if (this.end.signal.aborted) return;
      this.begin(file);
    }
  }

  private setAway(reason: string | null): void {
    if (this.isAway === (reason !== null)) return;
    this.isAway = reason !== null;
    this.duties.away(reason);
  }

  /** Whether a file has not changed for long enough. */
  private rests(file: FoundFile): boolean {
    const { name, bytes, modifiedMs } = file;
    const known = this.waiting.get(name);
    if (known?.isInWork) return false;
    if (this.duties.isDone(file)) {
      this.waiting.delete(name);
      return false;
    }
    const nowMs = performance.now();
    if (known?.bytes !== bytes || known.modifiedMs !== modifiedMs) {
      const fresh = { bytes, modifiedMs, sinceMs: nowMs, isInWork: false, wasTried: false };
      this.waiting.set(name, fresh);
      return false;
    }
    const { stillMs = STILL_MS } = this.pace;
    return nowMs - known.sinceMs >= (known.wasTried ? this.patienceMs : stillMs);
  }

  private get patienceMs(): number {
    return this.pace.patienceMs ?? PATIENCE_MS;
  }

  private begin(file: FoundFile): void {
    const known = this.waiting.get(file.name);
    if (!known) return;
    known.isInWork = true;
    const isLast = performance.now() - known.sinceMs >= this.patienceMs;
    const work = this.duties
      .handle(file, isLast)
      // What could not be written down, as on a full disk, waits like what could not be read.
      .catch((): Handled => 'again')
      .then((handled) => {
        known.isInWork = false;
        known.wasTried = true;
        if (handled === 'done') this.waiting.delete(file.name);
      })
      .finally(() => this.inWork.delete(work));
    this.inWork.add(work);
  }
}

export interface Pace {
  readonly stillMs: number;
  readonly patienceMs: number;
  readonly lookEachMs: number;
}
