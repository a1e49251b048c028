import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';

/** Outputs of one photo that are made of one decode. */
export interface PhotoToDo {
  readonly run: RunRow;
  readonly items: readonly RunItemRow[];
  readonly pixels: number;
}

interface PhotoInWork extends PhotoToDo {
  readonly aborting: AbortController;
  readonly done: Promise<void>;
}

/** What is being exported at the moment. */
export class PhotosInWork {
  private readonly all = new Set<PhotoInWork>();

  get count(): number {
    return this.all.size;
  }

  get pixels(): number {
    return [...this.all].reduce((sum, { pixels }) => sum + pixels, 0);
  }

  has(runId: number): boolean {
    return this.of(runId).length > 0;
  }

  /**
   * @param work never rejects
   * @param ended when it is not in work any more; `done` waits for what it begins
   */
  add(
    photo: PhotoToDo,
    work: (signal: AbortSignal) => Promise<void>,
    ended: () => Promise<void>,
  ): void {
    const aborting = new AbortController();
    const done = work(aborting.signal)
      .finally(() => this.all.delete(inWork))
      .then(ended);
    const inWork: PhotoInWork = { ...photo, aborting, done };
    this.all.add(inWork);
  }

  /** Resolves when what a run has in work at the moment has ended. */
  async settled(runId: number): Promise<void> {
    await Promise.all(this.of(runId).map(({ done }) => done));
  }

  /** What a run has in work now is given up, if it takes longer. */
  abortLater(runId: number, afterMs: number): void {
    const working = this.of(runId);
    setTimeout(() => working.forEach(({ aborting }) => aborting.abort()), afterMs).unref();
  }

  /** Gives up everything; resolves when it has ended. */
  async abort(): Promise<void> {
    const working = [...this.all];
    for (const { aborting } of working) aborting.abort();
    await Promise.all(working.map(({ done }) => done));
  }

  private of(runId: number): PhotoInWork[] {
    return [...this.all].filter(({ run }) => run.id === runId);
  }
}
