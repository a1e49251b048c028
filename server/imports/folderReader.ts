import { join } from 'node:path';
import type { ImportItemRow, ImportRow } from '../db/imports.ts';
import type { Tables } from '../db/tables.ts';
import type { PhotoIntake } from './photoIntake.ts';

export interface ReaderParts {
  readonly tables: Tables;
  readonly intake: PhotoIntake;
  readonly atOnce: number;
  readonly tell: () => void;
}

export type ReaderEnd =
  | { readonly kind: 'done' }
  | { readonly kind: 'stopped' }
  /** Our own disk or database failed, not a photo. */
  | { readonly kind: 'broken'; readonly path: string; readonly error: unknown };

/** Four times a second is as often as a person can follow. */
const TELL_EVERY_MS = 250;
/** Photos in work when the reading is stopped are let finish for this long. */
const GRACE_MS = 2_000;

/** Works off the waiting files of one import, several at once. */
export class FolderReader {
  private lastTaken = 0;
  private lastTold = 0;
  private isStopped = false;
  private broken: ReaderEnd | null = null;
  private readonly aborting = new AbortController();
  private running: Promise<ReaderEnd> | null = null;

  constructor(
    private readonly row: ImportRow,
    private readonly parts: ReaderParts,
  ) {}

  run(): Promise<ReaderEnd> {
    this.parts.tell();
    const lanes = Array.from({ length: this.parts.atOnce }, () => this.lane());
    this.running = Promise.all(lanes).then(() => {
      if (this.broken) return this.broken;
      return { kind: this.isStopped ? 'stopped' : 'done' };
    });
    return this.running;
  }

  /** Nothing is begun any more; resolves when what was in work has ended. */
  async stop(): Promise<void> {
    this.isStopped = true;
    const timer = setTimeout(() => this.aborting.abort(), GRACE_MS);
    await this.running?.catch(() => undefined);
    clearTimeout(timer);
  }

  private async lane(): Promise<void> {
    const { imports } = this.parts.tables;
    while (!this.isStopped && !this.broken) {
      const item = imports.nextWaiting(this.row.id, this.lastTaken);
      if (!item) return;
      this.lastTaken = item.id;
      await this.take(item);
    }
  }

  private async take(item: ImportItemRow): Promise<void> {
    const { tables, intake } = this.parts;
    const path = join(this.row.folder, item.name);
    try {
      const added = await intake.addInPlace(this.row.batchId, path, this.aborting.signal);
      // Aborted: it waits for the next time, or for being cancelled.
      if (!added.ok && this.isStopped && this.aborting.signal.aborted) return;
      if (!added.ok) tables.imports.finish(item.id, 'refused', added.reason);
      else tables.imports.finish(item.id, added.value.isAlready ? 'already' : 'added', null);
    } catch (error) {
      this.broken ??= { kind: 'broken', path: this.row.folder, error };
      return;
    }
    if (Date.now() - this.lastTold < TELL_EVERY_MS) return;
    this.lastTold = Date.now();
    this.parts.tell();
  }
}
