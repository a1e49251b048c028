import type { Tables } from './tables.ts';

interface Waiting {
  readonly write: () => void;
  readonly done: () => void;
  readonly fail: (error: unknown) => void;
}

/** More of them keep the server from answering for longer than anybody should notice. */
const MOST_TOGETHER = 64;
/** While several come at once, those of this time are gathered. */
const GATHERED_MS = 12;

/**
 * Writes that come at the same time are committed together: each commit is a flush of the disk, and a
 * server whose photos are made by many has more of them to note than a disk flushes.
 */
export class Portions {
  private readonly waiting: Waiting[] = [];
  private isBusy = false;

  constructor(private readonly tables: Pick<Tables, 'together'>) {}

  /** Resolves when it is on the disk. @throws what its own write throws, or the database */
  write(write: () => void): Promise<void> {
    return new Promise((done, fail) => {
      this.waiting.push({ write, done, fail });
      if (this.waiting.length > 1) return;
      // One that comes by itself waits for nobody.
      if (this.isBusy) setTimeout(() => this.flush(), GATHERED_MS);
      else setImmediate(() => this.flush());
    });
  }

  private flush(): void {
    const portion = this.waiting.splice(0, MOST_TOGETHER);
    this.isBusy = portion.length > 1;
    // What else there is comes after whoever is waiting for an answer.
    if (this.waiting.length > 0) setImmediate(() => this.flush());
    try {
      this.tables.together(() => portion.forEach(({ write }) => write()));
      portion.forEach(({ done }) => done());
    } catch {
      // One of them spoils it for all: each by itself.
      portion.forEach((one) => this.alone(one));
    }
  }

  private alone({ write, done, fail }: Waiting): void {
    try {
      this.tables.together(write);
      done();
    } catch (error) {
      fail(error);
    }
  }
}
