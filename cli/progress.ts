/** A progress bar on standard error; silent unless that is a terminal. */

const BAR_CELLS = 24;
const MS_PER_SECOND = 1_000;

export class Progress {
  private done = 0;
  private readonly startMs = Date.now();
  private readonly shown = process.stderr.isTTY;

  constructor(private readonly total: number) {
    this.draw();
  }

  step(): void {
    this.done++;
    this.draw();
  }

  end(): void {
    if (this.shown) process.stderr.write('\n');
  }

  private draw(): void {
    if (!this.shown) return;
    const filled = Math.round((BAR_CELLS * this.done) / this.total);
    const bar = '█'.repeat(filled) + '░'.repeat(BAR_CELLS - filled);
    process.stderr.write(`\r\u001b[K${bar} ${this.done} of ${this.total}${this.remaining()}`);
  }

  private remaining(): string {
    if (this.done === 0 || this.done === this.total) return '';
    const perPhotoMs = (Date.now() - this.startMs) / this.done;
    const seconds = Math.ceil((perPhotoMs * (this.total - this.done)) / MS_PER_SECOND);
    return seconds < 90
      ? `, about ${seconds} s left`
      : `, about ${Math.round(seconds / 60)} min left`;
  }
}
