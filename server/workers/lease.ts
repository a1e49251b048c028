import type { Job } from 'bullmq';
import { OneAtATime } from './oneAtATime.ts';

/**
 * A worker's hold on a pass. It is extended again and again; where that fails, because the worker was
 * frozen or cut off for longer than it lasts, another has the pass, and what is made here is for nothing.
 */
export class Lease {
  readonly lost = new AbortController();
  private readonly timer: NodeJS.Timeout;
  private readonly asking = new OneAtATime();
  private untilMs: number;

  constructor(
    private readonly job: Job,
    private readonly token: string,
    private readonly lastsMs: number,
    /** Whether nobody wants the pass any more. */
    private readonly isCancelled: () => Promise<boolean>,
  ) {
    this.untilMs = Date.now() + lastsMs;
    this.timer = setInterval(() => this.look(), lastsMs / 3);
  }

  /** The number of the lease: the next who takes the pass has a higher one. */
  get fence(): number {
    return this.job.attemptsStarted;
  }

  end(): void {
    clearInterval(this.timer);
  }

  /** Resolves to false when it is lost. */
  get untilLost(): Promise<false> {
    const { signal } = this.lost;
    if (signal.aborted) return Promise.resolve(false);
    return new Promise((resolve) => signal.addEventListener('abort', () => resolve(false)));
  }

  private look(): void {
    // A Redis that is away answers when it is back, which may be too late.
    if (Date.now() > this.untilMs) this.lost.abort();
    // One that fails to be extended is only lost when it has run out.
    void this.asking.run(
      () => this.extend(),
      () => undefined,
    );
  }

  private async extend(): Promise<void> {
    const askedMs = Date.now();
    const extended = await this.job.extendLock(this.token, this.lastsMs);
    if (extended !== 1 || (await this.isCancelled())) this.lost.abort();
    else this.untilMs = askedMs + this.lastsMs;
  }
}
