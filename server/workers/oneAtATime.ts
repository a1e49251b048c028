/** After this long what was begun is not waited for any more: a connection that broke may never answer. */
const GIVEN_UP_MS = 10_000;

/** Work that comes round again and again, and is left out while the last time has not ended. */
export class OneAtATime {
  private beganMs: number | null = null;

  /** Never throws. @param failed is told what it throws */
  async run(work: () => Promise<void>, failed: (error: unknown) => void): Promise<void> {
    const nowMs = performance.now();
    if (this.beganMs !== null && nowMs - this.beganMs < GIVEN_UP_MS) return;
    this.beganMs = nowMs;
    try {
      await work();
    } catch (error) {
      failed(error);
    } finally {
      if (this.beganMs === nowMs) this.beganMs = null;
    }
  }
}
