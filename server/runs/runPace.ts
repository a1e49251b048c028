/** How fast a run goes, by its last outputs: photos differ in size, and the machine in load. */

const REMEMBERED = 40;

export class RunPace {
  private readonly finishedMs: number[] = [Date.now()];

  step(atMs = Date.now()): void {
    this.finishedMs.push(atMs);
    if (this.finishedMs.length > REMEMBERED) this.finishedMs.shift();
  }

  /** Null until there is something to reckon from. */
  remainingMs(left: number): number | null {
    const steps = this.finishedMs.length - 1;
    if (steps < 1) return null;
    const spanMs = this.finishedMs[steps] - this.finishedMs[0];
    return Math.round((spanMs / steps) * left);
  }
}
