import type { Logger } from 'pino';
import type { Tables } from '../db/tables.ts';
import { recoverRun } from './recovery.ts';

/** What is done to a run once it was looked at. */
interface Afterwards {
  readonly hold: (runId: number, problem: string) => void;
  readonly finish: (runId: number) => Promise<void>;
}

/** Runs that an earlier server left, until each was looked at. */
export class RunsLeft {
  private readonly waiting = new Set<number>();
  /** Looks under way: a second one would take what the first has begun anew for left behind. */
  private readonly looking = new Map<number, Promise<string | null>>();

  constructor(
    private readonly parts: { readonly tables: Tables; readonly log: Logger },
    private readonly afterwards: Afterwards,
  ) {}

  /** Those that a server was at when it ended: none of them goes on before it was looked at. */
  note(): number[] {
    const left = this.parts.tables.items.interruptedRuns();
    for (const id of left) this.waiting.add(id);
    return left;
  }

  has(runId: number): boolean {
    return this.waiting.has(runId);
  }

  forget(runId: number): void {
    this.waiting.delete(runId);
  }

  /** Looks at a run that was not looked at yet. @returns what keeps it from going on, or null */
  async problemOf(runId: number): Promise<string | null> {
    if (!this.waiting.has(runId)) return null;
    const underWay = this.looking.get(runId);
    if (underWay) return underWay;
    const looking = this.lookAt(runId).finally(() => this.looking.delete(runId));
    this.looking.set(runId, looking);
    return looking;
  }

  private async lookAt(runId: number): Promise<string | null> {
    const { tables, log } = this.parts;
    const run = tables.runs.get(runId);
    if (!run) return 'That run is not there any more.';
    try {
      const problem = await recoverRun(tables, run);
      if (problem !== null) {
        // Looking takes a while where a disk does not answer; it may have been cancelled meanwhile.
        const state = tables.runs.get(runId)?.state;
        if (state === 'running' || state === 'paused') this.afterwards.hold(runId, problem);
        return problem;
      }
      this.waiting.delete(runId);
      await this.afterwards.finish(runId);
      return null;
    } catch (error) {
      log.error({ err: error, run: runId }, 'a run could not be taken up');
      return `It could not be taken up (${(error as Error).message}).`;
    }
  }
}
