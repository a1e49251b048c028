import type { RunView } from '#core/contract/http';
import type { Logger } from 'pino';
import type { NewItem, RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import { DocumentsOfRuns } from './documentsOfRuns.ts';
import { finishedRun, isThrough } from './finishedRun.ts';
import type { ExportParts, ItemEnd, ItemInWork } from './exportParts.ts';
import { exportPhoto, photoPixels } from './exportPhoto.ts';
import { noteEnd, persisted, TRY_AGAIN_MS } from './noteEnd.ts';
import type { PlannedRun } from './planRun.ts';
import { byPhoto, PhotosInWork, type PhotoToDo } from './photosInWork.ts';
import { RunNews } from './runNews.ts';
import { RunsLeft } from './runsLeft.ts';
import { RunsRemembered } from './runsRemembered.ts';
import { stemOf, temporaryPath, workerStem } from './runTemporaries.ts';
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
  private readonly inWork = new PhotosInWork();
  private readonly left: RunsLeft;
  private readonly documents: DocumentsOfRuns;
  private readonly news: RunNews;
  private isClosed = false;
  private isPumping = false;

  constructor(private readonly parts: QueueParts) {
    this.remembered = new RunsRemembered(parts.tables);
    this.documents = new DocumentsOfRuns(parts);
    this.news = new RunNews(
      (runId) => parts.tables.runs.stateOf(runId),
      (runId) => this.tellNow(runId),
      (runId) => this.tell(runId),
    );
    this.left = new RunsLeft(parts, {
      hold: (runId, problem) => this.hold(runId, problem),
      finish: (runId) => this.finishIfDone(runId),
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
      const ending = this.finishIfDone(run.id);
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
    void this.finishIfDone(run.id);
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
    void this.finishIfDone(run.id);
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
    void this.finishIfDone(run.id);
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
    const { runs, documents } = this.parts.tables;
    const pace = this.remembered.paceSoFar(run.id);
    return runView(run, runs.counts(run.id), documents.ofRun(run.id), pace);
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
      const next = this.parts.tables.together(() => this.takeUpNext());
      for (const photo of next) this.start(photo);
      if (next.length === MOST_TAKEN_UP) this.pumpSoon();
    } catch (error) {
      this.parts.log.error({ err: error }, 'the queue of runs waits');
      setTimeout(() => this.pump(), TRY_AGAIN_MS).unref();
    }
  }

  /** Marks all as being worked on that there is room for. */
  private takeUpNext(): PhotoToDo[] {
    const { tables, imaging } = this.parts;
    const room = imaging.room();
    const taken: PhotoToDo[] = [];
    if (this.isClosed) return taken;
    let busy = this.inWork.pixels;
    const most = Math.min(room.photos - this.inWork.count, MOST_TAKEN_UP);
    for (const next of this.waiting(most)) {
      // A photo beyond the budget waits until it can have the machine to itself.
      if (busy > 0 && busy + next.pixels > room.pixels) break;
      next.items.forEach(({ id }) => tables.items.takeUp(id));
      taken.push(next);
      busy += next.pixels;
    }
    return taken;
  }

  /** The photos that come next, at most so many. */
  private waiting(most: number): PhotoToDo[] {
    const { tables } = this.parts;
    const found: PhotoToDo[] = [];
    if (most <= 0) return found;
    for (const run of tables.runs.unfinished()) {
      if (run.state !== 'running' || this.left.has(run.id)) continue;
      const waiting = tables.items.waiting(run.id, most - found.length);
      for (const items of byPhoto(waiting)) {
        found.push({ run, items, pixels: photoPixels(run, items, tables) });
      }
      if (found.length >= most) break;
    }
    return found;
  }

  private start(photo: PhotoToDo): void {
    const ended = async (): Promise<void> => {
      this.pumpSoon();
      await this.finishIfDone(photo.run.id);
      this.tell(photo.run.id);
    };
    this.inWork.add(photo, (signal) => this.work(photo, signal), ended);
  }

  /** Never rejects: whatever happens to an item is noted, as soon as it can be. */
  private async work({ run, items }: PhotoToDo, signal: AbortSignal): Promise<void> {
    const open = new Set(items);
    const end = async (item: RunItemRow, how: ItemEnd): Promise<void> => {
      // An item that this server was closed under is taken up by the next.
      if (this.isClosed) return;
      open.delete(item);
      const note = (): Promise<void> =>
        this.parts.portions.write(() => this.note(run, item, how, signal.aborted));
      await persisted(note, () => this.isClosed, this.parts.log);
      if (this.isClosed) return;
      this.remembered.pace(run.id).step();
      if (open.size > 0) this.tell(run.id);
    };
    try {
      const works = items.map((item): ItemInWork => ({
        item,
        temporary: temporaryPath(run, item, this.parts.paths),
      }));
      await exportPhoto(run, works, this.remembered.namesOf(run), signal, this.parts, end);
    } catch (error) {
      const reason = `Something went wrong (${(error as Error).message}).`;
      for (const item of open) {
        this.parts.log.error({ err: error, run: run.id, item: item.id }, 'an export failed oddly');
        await end(item, { kind: 'ended', status: 'failed', output: null, error: reason });
      }
    }
  }

  private note(run: RunRow, item: RunItemRow, end: ItemEnd, isAborted: boolean): void {
    const { tables } = this.parts;
    noteEnd(item, end, isAborted, tables, {
      state: () => tables.runs.stateOf(run.id),
      hold: (problem) => this.hold(run.id, problem),
    });
  }

  private async finishIfDone(runId: number): Promise<void> {
    const { tables, log } = this.parts;
    if (this.isClosed || this.inWork.has(runId)) return;
    try {
      const isAtWork = (): boolean => this.inWork.has(runId) || this.documents.isMaking(runId);
      if (!(await this.documentsMade(runId, isAtWork))) return;
      const isEnded = await finishedRun(runId, tables, isAtWork, (run) => this.clearUp(run));
      if (isEnded) this.forget(runId);
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
    if (run.state !== 'running' || this.left.has(runId) || !isThrough(counts) || isAtWork()) {
      return false;
    }
    const end = await this.documents.make(run, this.remembered.namesOf(run));
    if (this.isClosed) return false;
    if (end.kind === 'held') {
      this.hold(runId, end.problem);
      return false;
    }
    this.tell(runId);
    const isCancelled = this.parts.tables.runs.get(runId)?.state === 'cancelled';
    return isCancelled || this.documents.left(run).length === 0;
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
