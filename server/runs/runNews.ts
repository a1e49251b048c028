import type { RunRow } from '../db/runs.ts';

/** Progress of a run is told this often. */
const TELL_EACH_MS = 100;

/**
 * What a run has come to is told at once; how far it is so seldom that counting its outputs costs nothing
 * beside them.
 */
export class RunNews {
  /** Runs that were told of a moment ago, and whether there is more to tell. */
  private readonly told = new Map<number, { state: string; isMore: boolean }>();

  /**
   * @param find null: the run is not there any more
   * @param tell what it throws is thrown to who has news
   * @param later news that come by themselves
   */
  constructor(
    private readonly find: (runId: number) => Pick<RunRow, 'state'> | null | undefined,
    private readonly tell: (runId: number) => void,
    private readonly later: (runId: number) => void,
  ) {}

  of(runId: number): void {
    const run = this.find(runId);
    if (!run) return;
    const { state } = run;
    const before = this.told.get(runId);
    if (before?.state === state) {
      before.isMore = true;
      return;
    }
    this.tell(runId);
    const now = { state, isMore: false };
    this.told.set(runId, now);
    setTimeout(() => {
      if (this.told.get(runId) !== now) return;
      this.told.delete(runId);
      if (now.isMore) this.later(runId);
    }, TELL_EACH_MS).unref();
  }
}
