import type { RunView } from '#core/contract/http';
import type { Logger } from 'pino';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import { photosAtOnce } from '../imaging/limits.ts';
import { finishedRun } from './finishedRun.ts';
import type { ExportParts, ItemEnd, ItemInWork } from './exportParts.ts';
import { exportPhoto, photoPixels } from './exportPhoto.ts';
import { noteEnd, persisted, TRY_AGAIN_MS } from './noteEnd.ts';
import type { PlannedRun } from './planRun.ts';
import { RunsLeft } from './runsLeft.ts';
import { RunsRemembered } from './runsRemembered.ts';
import { temporaryPath } from './runTemporaries.ts';
import { runView } from './runViews.ts';

export interface QueueParts extends ExportParts {
  readonly log: Logger;
  readonly tell: (run: RunView) => void;
}

/**
 * Pixels worked on at once, the next photo included: three of a large camera. One that is larger waits
 * until it has the machine to itself.
 */
const PIXELS_AT_ONCE = 130_000_000;
/** Photos in work when a run is cancelled are let finish for this long. */
const CANCEL_GRACE_MS = 5_000;
/** Outputs of one photo that are waiting for each other's decode. */
interface PhotoToDo {
  readonly run: RunRow;
  readonly items: readonly RunItemRow[];
  readonly pixels: number;
}

interface PhotoInWork extends PhotoToDo {
  readonly aborting: AbortController;
  readonly done: Promise<void>;
}

/** Works off runs in the background, oldest first, a bounded number of photos at once. */
export class RunQueue {
  private readonly remembered: RunsRemembered;
  private readonly inWork = new Set<PhotoInWork>();
  private readonly left: RunsLeft;
  private isClosed = false;

  constructor(private readonly parts: QueueParts) {
    this.remembered = new RunsRemembered(parts.tables);
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
    for (const run of this.parts.tables.runs.unfinished()) await this.finishIfDone(run.id);
    this.pump();
  }

  begin(planned: PlannedRun): number {
    const { tables } = this.parts;
    const id = tables.together(() => {
      const runId = tables.runs.insert(planned.run);
      tables.items.insertAll(runId, planned.items);
      return runId;
    });
    this.tell(id);
    // In the next turn: whoever begins a run may still be writing what belongs to it.
    setImmediate(() => this.pump());
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
  }

  /** What is being written is finished, unless it takes long; the rest is not begun. */
  cancel(run: RunRow): void {
    if (run.state !== 'running' && run.state !== 'paused') return;
    const { tables } = this.parts;
    tables.together(() => {
      tables.items.cancelWaiting(run.id);
      tables.runs.setState(run.id, 'cancelled');
    });
    const working = this.workOf(run.id);
    setTimeout(() => working.forEach(({ aborting }) => aborting.abort()), CANCEL_GRACE_MS).unref();
    this.tell(run.id);
    void this.finishIfDone(run.id);
  }

  /** Failed and cancelled photos once more; what is written stays. */
  async retry(run: RunRow): Promise<void> {
    const problem = await this.left.problemOf(run.id);
    if (this.parts.tables.items.requeueFailed(run.id) === 0) return;
    if (problem !== null) return this.hold(run.id, problem);
    this.parts.tables.runs.setState(run.id, 'running');
    this.remembered.forget(run.id);
    this.tell(run.id);
    this.pump();
  }

  /** Resolves when nothing of a run is in work any more. */
  async settled(runId: number): Promise<void> {
    await Promise.all(this.workOf(runId).map(({ done }) => done));
  }

  forget(runId: number): void {
    this.remembered.forget(runId);
    this.left.forget(runId);
  }

  view(run: RunRow): RunView {
    return runView(run, this.parts.tables.runs.counts(run.id), this.remembered.paceSoFar(run.id));
  }

  /** What is in work is given up, and waits for the next server; resolves when it has ended. */
  async close(): Promise<void> {
    this.isClosed = true;
    const working = [...this.inWork];
    for (const { aborting } of working) aborting.abort();
    await Promise.all(working.map(({ done }) => done));
  }

  private hold(runId: number, problem: string | null): void {
    this.parts.tables.runs.setState(runId, 'paused', problem);
    this.remembered.paceSoFar(runId)?.pause();
    this.tell(runId);
  }

  /** Begins whatever there is room for. It never throws: a database that fails is asked again. */
  private pump(): void {
    try {
      for (let next = this.nextPhoto(); next; next = this.nextPhoto()) this.start(next);
    } catch (error) {
      this.parts.log.error({ err: error }, 'the queue of runs waits');
      setTimeout(() => this.pump(), TRY_AGAIN_MS).unref();
    }
  }

  private nextPhoto(): PhotoToDo | null {
    const { tables } = this.parts;
    if (this.isClosed || this.inWork.size >= photosAtOnce()) return null;
    const busy = [...this.inWork].reduce((sum, { pixels }) => sum + pixels, 0);
    for (const run of tables.runs.unfinished()) {
      if (run.state !== 'running' || this.left.has(run.id)) continue;
      const items = tables.items.nextWaiting(run.id);
      if (items.length === 0) continue;
      const pixels = photoPixels(run, items);
      // A photo beyond the budget waits until it can have the machine to itself.
      return busy > 0 && busy + pixels > PIXELS_AT_ONCE ? null : { run, items, pixels };
    }
    return null;
  }

  private start(photo: PhotoToDo): void {
    const { tables } = this.parts;
    tables.together(() => photo.items.forEach(({ id }) => tables.items.takeUp(id)));
    const aborting = new AbortController();
    const done = this.work(photo, aborting.signal)
      .finally(() => {
        this.inWork.delete(work);
        this.pump();
      })
      .then(() => this.finishIfDone(photo.run.id))
      .then(() => this.tell(photo.run.id));
    const work: PhotoInWork = { ...photo, aborting, done };
    this.inWork.add(work);
  }

  /** Never rejects: whatever happens to an item is noted, as soon as it can be. */
  private async work({ run, items }: PhotoToDo, signal: AbortSignal): Promise<void> {
    const open = new Set(items);
    const end = async (item: RunItemRow, how: ItemEnd): Promise<void> => {
      // An item that this server was closed under is taken up by the next.
      if (this.isClosed) return;
      open.delete(item);
      const note = (): void => this.note(run, item, how, signal.aborted);
      await persisted(note, () => this.isClosed, this.parts.log);
      if (this.isClosed) return;
      this.remembered.pace(run.id).step();
      if (open.size > 0) this.tell(run.id);
    };
    try {
      const works = items.map((item): ItemInWork => ({
        item,
        temporary: temporaryPath(run, item),
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
      state: () => tables.runs.get(run.id)?.state,
      hold: (problem) => this.hold(run.id, problem),
    });
  }

  private async finishIfDone(runId: number): Promise<void> {
    const { tables, log } = this.parts;
    if (this.isClosed) return;
    try {
      const isAtWork = (): boolean => this.workOf(runId).length > 0;
      if (await finishedRun(runId, tables, isAtWork)) this.forget(runId);
    } catch (error) {
      log.error({ err: error, run: runId }, 'the end of a run could not be noted yet');
      setTimeout(() => void this.finishIfDone(runId), TRY_AGAIN_MS).unref();
    }
  }

  private workOf(runId: number): PhotoInWork[] {
    return [...this.inWork].filter(({ run }) => run.id === runId);
  }

  private tell(runId: number): void {
    if (this.isClosed) return;
    try {
      const run = this.parts.tables.runs.get(runId);
      if (run) this.parts.tell(this.view(run));
    } catch (error) {
      this.parts.log.warn({ err: error, run: runId }, 'progress could not be told');
    }
  }
}
