import type { Logger } from 'pino';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { ExportParts, ItemEnd, ItemInWork } from './exportParts.ts';
import { exportPhoto } from './exportPhoto.ts';
import { noteEnd, persisted } from './noteEnd.ts';
import type { PhotoToDo } from './photosInWork.ts';
import type { RunsRemembered } from './runsRemembered.ts';
import { temporaryPath } from './runTemporaries.ts';

interface QueueOfWork {
  readonly isClosed: () => boolean;
  readonly hold: (runId: number, problem: string) => void;
  readonly tell: (runId: number) => void;
}

/** Makes the outputs of a photo, and has it noted how each ended. */
export class PhotoWork {
  constructor(
    private readonly parts: ExportParts & { readonly log: Logger },
    private readonly remembered: RunsRemembered,
    private readonly queue: QueueOfWork,
  ) {}

  /** Never rejects: whatever happens to an item is noted, as soon as it can be. */
  async of({ run, items }: PhotoToDo, signal: AbortSignal): Promise<void> {
    const { parts, queue } = this;
    const open = new Set(items);
    const end = async (item: RunItemRow, how: ItemEnd): Promise<void> => {
      // An item that this server was closed under is taken up by the next.
      if (queue.isClosed()) return;
      open.delete(item);
      const note = (): Promise<void> =>
        parts.portions.write(() => this.note(item, how, signal.aborted));
      await persisted(note, queue.isClosed, parts.log);
      if (queue.isClosed()) return;
      this.remembered.pace(run.id).step();
      if (open.size > 0) queue.tell(run.id);
    };
    try {
      const works = items.map((item): ItemInWork => ({
        item,
        temporary: temporaryPath(run, item, parts.paths),
      }));
      await exportPhoto(run, works, this.remembered.namesOf(run), signal, parts, end);
    } catch (error) {
      const reason = `Something went wrong (${(error as Error).message}).`;
      for (const item of open) {
        parts.log.error({ err: error, run: run.id, item: item.id }, 'an export failed oddly');
        await end(item, { kind: 'ended', status: 'failed', output: null, error: reason });
      }
    }
  }

  private note(item: RunItemRow, end: ItemEnd, isAborted: boolean): void {
    const { tables } = this.parts;
    noteEnd(item, end, isAborted, tables, {
      state: () => tables.runs.stateOf(item.runId),
      hold: (problem) => this.queue.hold(item.runId, problem),
    });
  }
}
