import type { Logger } from 'pino';
import type { RunRow } from '../db/runs.ts';
import type { DocumentsOfRuns } from './documentsOfRuns.ts';
import type { ExportParts } from './exportParts.ts';
import { finishedRun, isThrough } from './finishedRun.ts';
import { TRY_AGAIN_MS } from './noteEnd.ts';
import type { RunsRemembered } from './runsRemembered.ts';
import { stemOf, workerStem } from './runTemporaries.ts';

/** What the queue knows of a run, and what it does at its end. */
interface QueueOfEndings {
  readonly isClosed: () => boolean;
  readonly isInWork: (runId: number) => boolean;
  /** Whether an earlier server left something of it that is not mended yet. */
  readonly isLeft: (runId: number) => boolean;
  readonly hold: (runId: number, problem: string) => void;
  readonly tell: (runId: number) => void;
  readonly ended: (runId: number) => void;
}

/** The ends of runs: once all photos have ended, what is made of all of them, and then the clearing up. */
export class RunEndings {
  constructor(
    private readonly parts: ExportParts & { readonly log: Logger },
    private readonly documents: DocumentsOfRuns,
    private readonly remembered: RunsRemembered,
    private readonly queue: QueueOfEndings,
  ) {}

  /** Never throws: an end that cannot be noted is tried again. */
  async finishIfDone(runId: number): Promise<void> {
    const { tables, log } = this.parts;
    if (this.queue.isClosed() || this.queue.isInWork(runId)) return;
    try {
      const isAtWork = (): boolean => this.queue.isInWork(runId) || this.documents.isMaking(runId);
      if (!(await this.documentsMade(runId, isAtWork))) return;
      const isEnded = await finishedRun(runId, tables, isAtWork, (run) => this.clearUp(run));
      if (isEnded) this.queue.ended(runId);
    } catch (error) {
      log.error({ err: error, run: runId }, 'the end of a run could not be noted yet');
      setTimeout(() => void this.finishIfDone(runId), TRY_AGAIN_MS).unref();
    }
  }

  private async clearUp(run: RunRow): Promise<void> {
    await this.documents.clearUp(run);
    // What is far away cannot hold a run up, and may be swept up by whoever keeps it.
    await this.parts.imaging.sweep(`${workerStem(stemOf(run))}-`).catch((error: unknown) => {
      this.parts.log.warn({ err: error, run: run.id }, 'what workers left could not be removed');
    });
  }

  /** Makes what a run makes of all its photos, once they have ended. @returns whether the run can end */
  private async documentsMade(runId: number, isAtWork: () => boolean): Promise<boolean> {
    const run = this.parts.tables.runs.get(runId);
    if (!run || run.state === 'done' || run.state === 'cancelled') return true;
    if (this.documents.left(run).length === 0) return true;
    const counts = this.parts.tables.runs.counts(runId);
    if (run.state !== 'running' || this.queue.isLeft(runId) || !isThrough(counts) || isAtWork()) {
      return false;
    }
    const end = await this.documents.make(run, this.remembered.namesOf(run));
    if (this.queue.isClosed()) return false;
    if (end.kind === 'held') {
      this.queue.hold(runId, end.problem);
      return false;
    }
    this.queue.tell(runId);
    const isCancelled = this.parts.tables.runs.get(runId)?.state === 'cancelled';
    return isCancelled || this.documents.left(run).length === 0;
  }
}
