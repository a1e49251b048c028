/** How fast a run goes, by its last outputs: photos differ in size, and the machine in load. */

const REMEMBERED = 40;

export class RunPace {
  private readonly finishedMs: number[];
  /** Time that passed while the run was paused; it is no work. */
  private pausedMs = 0;
  private pausedSinceMs: number | null = null;

  constructor(atMs = Date.now()) {
    this.finishedMs = [atMs];
  }

  /** An output has ended; also one that was in work when the run was paused. */
  step(atMs = Date.now()): void {
    this.finishedMs.push(this.workMs(atMs));
    if (this.finishedMs.length > REMEMBERED) this.finishedMs.shift();
  }

  pause(atMs = Date.now()): void {
    this.pausedSinceMs ??= atMs;
  }

  resume(atMs = Date.now()): void {
    if (this.pausedSinceMs === null) return;
    this.pausedMs += atMs - this.pausedSinceMs;
    this.pausedSinceMs = null;
  }

  /** Null until there is something to reckon from. */
  remainingMs(left: number): number | null {
    const steps = this.finishedMs.length - 1;
    if (steps < 1) return null;
    const spanMs = this.finishedMs[steps] - this.finishedMs[0];
    return Math.round((spanMs / steps) * left);
  }

  private workMs(atMs: number): number {
    return Math.min(atMs, this.pausedSinceMs ?? atMs) - this.pausedMs;
  }
}
