import type { RunView } from '#core/contract/http';
import type { Logger } from 'pino';
import type { NewItem } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import { CountsKept } from './countsKept.ts';
import { DocumentsOfRuns } from './documentsOfRuns.ts';
import type { ExportParts } from './exportParts.ts';
import { TRY_AGAIN_MS } from './noteEnd.ts';
import type { PlannedRun } from './planRun.ts';
import { PhotosInWork, type PhotoToDo } from './photosInWork.ts';
import { PhotoWork } from './photoWork.ts';
import { takenUp } from './takeUp.ts';
import { RunEndings } from './runEndings.ts';
import { RunNews } from './runNews.ts';
import { RunsLeft } from './runsLeft.ts';
import { RunsRemembered } from './runsRemembered.ts';
import { runView } from './runViews.ts';

export interface QueueParts extends ExportParts {
  readonly log: Logger;
  readonly tell: (run: RunView) => void;
}

/** More photos that are taken up at once keep the server from answering. */
const MOST_TAKEN_UP = 32;
/** From so many on, places that become free are gathered before they are filled. */
const MANY_IN_WORK = 16;
const GATHERED_MS = 12;
/** Photos in work when a run is cancelled are let finish for this long. */
const CANCEL_GRACE_MS = 5_000;

/** Works off runs in the background, oldest first, a bounded number of photos at once. */
export class RunQueue {
  private readonly remembered: RunsRemembered;
  private readonly counts: CountsKept;
  private readonly inWork = new PhotosInWork();
  private readonly left: RunsLeft;
  private readonly documents: DocumentsOfRuns;
  private readonly news: RunNews;
  private readonly endings: RunEndings;
  private readonly work: PhotoWork;
  private isClosed = false;
  private isPumping = false;

  constructor(private readonly parts: QueueParts) {
    this.remembered = new RunsRemembered(parts.tables);
    this.counts = new CountsKept(parts.tables);
    this.documents = new DocumentsOfRuns(parts);
    this.news = new RunNews(
      (runId) => parts.tables.runs.stateOf(runId),
      (runId) => this.tellNow(runId),
      (runId) => this.tell(runId),
    );
    this.left = new RunsLeft(parts, {
      hold: (runId, problem) => this.hold(runId, problem),
      finish: (runId) => this.endings.finishIfDone(runId),
    });
    this.work = new PhotoWork(parts, this.remembered, {
      isClosed: () => this.isClosed,
      hold: (runId, problem) => this.hold(runId, problem),
      tell: (runId) => this.tell(runId),
    });
    this.endings = new RunEndings(parts, this.documents, this.remembered, {
      isClosed: () => this.isClosed,
      isInWork: (runId) => this.inWork.has(runId),
      isLeft: (runId) => this.left.has(runId),
      hold: (runId, problem) => this.hold(runId, problem),
      tell: (runId) => this.tell(runId),
      ended: (runId) => this.forget(runId),
    });
  }

  /** Takes up what an earlier server left unfinished; a run whose folder is away is paused. */
  async recover(): Promise<void> {
    const left = this.left.note();
    this.pump();
    await Promise.all(left.map((id) => this.left.problemOf(id)));
    await this.documents.sweep().catch((error: unknown) => {
      this.parts.log.warn({ err: error }, 'what runs left ready could not be cleared up');
    });
    for (const run of this.parts.tables.runs.unfinished()) {
      const ending = this.endings.finishIfDone(run.id);
      // Documents take their time; whoever starts a server does not wait for them.
      if (this.documents.left(run).length === 0) await ending;
    }
    this.pump();
  }

  /** More photos for a run; where it has ended, it goes on. */
  append(runId: number, items: readonly NewItem[]): void {
    const { tables } = this.parts;
    tables.together(() => {
      tables.items.insertAll(runId, items);
      if (tables.runs.get(runId)?.state === 'done') tables.runs.setState(runId, 'running');
    });
    this.remembered.grew(
      runId,
      items.map(({ sourcePath }) => sourcePath),
    );
    this.tell(runId);
    this.pumpSoon();
  }

  begin(planned: Pick<PlannedRun, 'run' | 'items'>): number {
    const { tables } = this.parts;
    const id = tables.together(() => {
      const runId = tables.runs.insert(planned.run);
      tables.items.insertAll(runId, planned.items);
      return runId;
    });
    this.tell(id);
    this.pumpSoon();
    return id;
  }

  pause(run: RunRow): void {
    if (run.state === 'running') this.hold(run.id, null);
  }

  /** Goes on with a paused run, and looks first whether what was in its way still is. */
  async resume(run: RunRow): Promise<void> {
    if (run.state !== 'paused') return;
    if ((await this.left.problemOf(run.id)) !== null) return;
    // It may have been cancelled while its folder was looked at, or nothing was left to do.
    if (this.parts.tables.runs.get(run.id)?.state !== 'paused') return;
    this.parts.tables.runs.setState(run.id, 'running');
    this.remembered.goesOn(run.id);
    this.tell(run.id);
    this.pump();
    void this.endings.finishIfDone(run.id);
  }

  /** What is being written is finished, unless it takes long; the rest is not begun. */
  cancel(run: RunRow): void {
    if (run.state !== 'running' && run.state !== 'paused') return;
    const { tables } = this.parts;
    tables.together(() => {
      tables.items.cancelWaiting(run.id);
      tables.runs.setState(run.id, 'cancelled');
    });
    this.documents.cancel(run.id);
    this.inWork.abortLater(run.id, CANCEL_GRACE_MS);
    this.tell(run.id);
    void this.endings.finishIfDone(run.id);
  }

  /** Failed and cancelled photos once more; what is written stays. */
  async retry(run: RunRow): Promise<void> {
    const problem = await this.left.problemOf(run.id);
    const { tables } = this.parts;
    const isAny = tables.together(() => {
      const requeued = tables.items.requeueFailed(run.id);
      return this.documents.beginAnew(run) || requeued > 0;
    });
    if (!isAny) return;
    if (problem !== null) return this.hold(run.id, problem);
    this.parts.tables.runs.setState(run.id, 'running');
    this.remembered.forget(run.id);
    this.tell(run.id);
    this.pump();
    void this.endings.finishIfDone(run.id);
  }

  /** Resolves when nothing of a run is in work any more. */
  async settled(runId: number): Promise<void> {
    await Promise.all([this.documents.settled(runId), this.inWork.settled(runId)]);
  }

  forget(runId: number): void {
    this.remembered.forget(runId);
    this.left.forget(runId);
  }

  view(run: RunRow): RunView {
    const { documents } = this.parts.tables;
    const pace = this.remembered.paceSoFar(run.id);
    return runView(run, this.counts.of(run), documents.ofRun(run.id), pace);
  }

  /** What is in work is given up, and waits for the next server; resolves when it has ended. */
  async close(): Promise<void> {
    this.isClosed = true;
    this.parts.imaging.leave();
    await Promise.all([this.inWork.abort(), this.documents.close()]);
  }

  private hold(runId: number, problem: string | null): void {
    this.parts.tables.runs.setState(runId, 'paused', problem);
    this.remembered.paceSoFar(runId)?.pause();
    this.tell(runId);
  }

  /** In the next turn: whoever begins a run may still be writing, and photos often end together. */
  private pumpSoon(): void {
    if (this.isPumping) return;
    this.isPumping = true;
    const pump = (): void => {
      this.isPumping = false;
      this.pump();
    };
    // Where many are in work, no one waits for the next, and each commit is a flush of the disk.
    if (this.inWork.count >= MANY_IN_WORK) setTimeout(pump, GATHERED_MS);
    else setImmediate(pump);
  }

  /** Begins whatever there is room for. It never throws: a database that fails is asked again. */
  private pump(): void {
    try {
      const next = this.isClosed ? [] : this.takeUpNext();
      for (const photo of next) this.start(photo);
      if (next.length === MOST_TAKEN_UP) this.pumpSoon();
    } catch (error) {
      this.parts.log.error({ err: error }, 'the queue of runs waits');
      setTimeout(() => this.pump(), TRY_AGAIN_MS).unref();
    }
  }

  private takeUpNext(): PhotoToDo[] {
    const { tables, imaging } = this.parts;
    const { photos, pixels } = imaging.room();
    const { count, pixels: pixelsInWork } = this.inWork;
    const room = { photos: Math.min(photos - count, MOST_TAKEN_UP), pixels, pixelsInWork };
    return takenUp(tables, room, (runId) => !this.left.has(runId));
  }

  private start(photo: PhotoToDo): void {
    const ended = async (): Promise<void> => {
      this.pumpSoon();
      await this.endings.finishIfDone(photo.run.id);
      this.tell(photo.run.id);
    };
    this.inWork.add(photo, (signal) => this.work.of(photo, signal), ended);
  }

  private tell(runId: number): void {
    if (this.isClosed) return;
    try {
      this.news.of(runId);
    } catch (error) {
      this.parts.log.warn({ err: error, run: runId }, 'progress could not be told');
    }
  }

  private tellNow(runId: number): void {
    const run = this.parts.tables.runs.get(runId);
    if (run) this.parts.tell(this.view(run));
  }
}
