import type { RunView } from '#core/contract/http';

/** Progress of a run is told this often at most. */
const TELL_EACH_MS = 100;
/** Of all time, where to tell takes longer: a run of a hundred thousand has as many outputs to count. */
const MOST_OF_TIME = 0.05;
/** A machine that stood still for a moment is not silent for minutes. */
const LONGEST_MS = 10_000;

/**
 * What a run has come to is told at once; how far it is so seldom that counting its outputs costs nothing
 * beside them.
 */
export class RunNews {
  /** Runs that were told of a moment ago, and whether there is more to tell. */
  private readonly told = new Map<number, { state: string; isMore: boolean }>();

  /**
   * @param stateOf null: the run is not there any more
   * @param tell what it throws is thrown to who has news
   * @param later news that come by themselves
   */
  constructor(
    private readonly stateOf: (runId: number) => RunView['state'] | null,
    private readonly tell: (runId: number) => void,
    private readonly later: (runId: number) => void,
  ) {}

  of(runId: number): void {
    const state = this.stateOf(runId);
    if (state === null) return;
    const before = this.told.get(runId);
    if (before?.state === state) {
      before.isMore = true;
      return;
    }
    const beganMs = performance.now();
    this.tell(runId);
    const tookMs = performance.now() - beganMs;
    const now = { state, isMore: false };
    this.told.set(runId, now);
    const next = (): void => {
      if (this.told.get(runId) !== now) return;
      this.told.delete(runId);
      if (now.isMore) this.later(runId);
    };
    const restMs = Math.min(LONGEST_MS, tookMs / MOST_OF_TIME);
    setTimeout(next, Math.max(TELL_EACH_MS, restMs)).unref();
  }
}
