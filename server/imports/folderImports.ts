import type { Logger } from 'pino';
import type { ImportView } from '#core/contract/http';
import { failure, success, type Result } from '#core/result';
import type { ImportRow } from '../db/imports.ts';
import type { Tables } from '../db/tables.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { FolderReader } from './folderReader.ts';
import type { PhotoIntake } from './photoIntake.ts';
import { listed, photosIn } from './photosIn.ts';

/** Refusals beyond these are counted, not listed. */
const LISTED_REFUSALS = 200;

/** After the database could not be written; it may have room again by then. */
const TRY_AGAIN_MS = 5_000;

export interface ImportParts {
  readonly tables: Tables;
  readonly intake: PhotoIntake;
  readonly allowed: AllowedFolders;
  readonly atOnce: number;
  readonly log: Logger;
  readonly tell: (progress: ImportView) => void;
}

/**
 * Folders that are read into batches where they lie: jobs with a row for each file, gone on with after
 * a restart. One at a time for each batch.
 */
export class FolderImports {
  private readonly readers = new Map<number, FolderReader>();
  /** Folders that are being listed, by batch: a second wish for the same is the same. */
  private readonly opening = new Map<number, { folder: string; begun: Promise<Result<void>> }>();
  /** What keeps imports waiting where not even that could be written down, by import. */
  private readonly held = new Map<number, string>();
  private isClosed = false;

  constructor(private readonly parts: ImportParts) {}

  /** Goes on with what an earlier server left; a folder that is away is paused with that sentence. */
  async recover(): Promise<void> {
    for (const row of this.parts.tables.imports.unfinished()) {
      if (row.state === 'reading') await this.goOn(row);
    }
  }

  /** Begins to read a folder; progress is told, the answer does not wait for it. */
  begin(batchId: number, folder: string): Promise<Result<void>> {
    const opening = this.opening.get(batchId);
    if (opening) {
      if (opening.folder === folder) return opening.begun;
      return Promise.resolve(failure(STILL_READING));
    }
    const begun = this.open(batchId, folder).finally(() => this.opening.delete(batchId));
    this.opening.set(batchId, { folder, begun });
    return begun;
  }

  /** Those in work end first; what was not begun is not read. */
  async cancel(batchId: number): Promise<void> {
    const { tables } = this.parts;
    await this.opening.get(batchId)?.begun.catch(() => undefined);
    const row = this.unfinishedOf(batchId);
    if (!row) return;
    await this.readers.get(row.id)?.stop();
    tables.together(() => {
      tables.imports.cancelWaiting(row.id);
      tables.imports.setState(row.id, 'cancelled');
    });
    this.tell(row.id);
  }

  /** Goes on with a paused one, or reads once more what was refused or cancelled. */
  async resume(batchId: number): Promise<void> {
    const row = this.parts.tables.imports.newestOf(batchId);
    if (!row || this.readers.has(row.id)) return;
    const isUnfinished = row.state === 'paused' || row.state === 'reading';
    const again = isUnfinished ? 0 : this.parts.tables.imports.requeue(row.id);
    if (isUnfinished || again > 0) await this.goOn(row);
  }

  /** What is being read, or null. */
  underWay(batchId: number): ImportView | null {
    const row = this.unfinishedOf(batchId);
    return row && this.view(row);
  }

  /** The last one of a batch, whatever became of it. */
  newest(batchId: number): ImportView | null {
    const row = this.parts.tables.imports.newestOf(batchId);
    return row && this.view(row);
  }

  /** The last folder read into a batch, where some of it was refused. */
  lastWithRefusals(batchId: number): ImportView | null {
    const row = this.parts.tables.imports.newestOf(batchId);
    if (!row || row.state === 'reading' || row.state === 'paused') return null;
    const view = this.view(row);
    return view.refusedCount > 0 ? view : null;
  }

  close(): void {
    this.isClosed = true;
    for (const reader of this.readers.values()) void reader.stop();
  }

  private async open(batchId: number, folder: string): Promise<Result<void>> {
    const { tables } = this.parts;
    const underWay = this.unfinishedOf(batchId);
    if (underWay?.folder === folder) {
      if (underWay.state === 'paused') await this.goOn(underWay);
      return success(undefined);
    }
    if (underWay) return failure(STILL_READING);
    const photos = await photosIn(folder);
    if (!photos.ok) return photos;
    // It may have been deleted while the folder was listed.
    if (!tables.batches.get(batchId)) return failure('That batch is not there any more.');
    const id = tables.imports.insert(batchId, folder, photos.value);
    this.read(tables.imports.get(id));
    return success(undefined);
  }

  private async goOn(row: ImportRow): Promise<void> {
    const { tables, allowed } = this.parts;
    const folder = await allowed.resolve(row.folder);
    const there = folder.ok ? await listed(row.folder) : folder;
    // Looking takes a while where a disk does not answer; it may have been cancelled, deleted with its
    // batch or gone on with meanwhile.
    if (this.isClosed || this.readers.has(row.id)) return;
    if (tables.imports.get(row.id)?.state !== row.state) return;
    tables.imports.setState(
      row.id,
      there.ok ? 'reading' : 'paused',
      there.ok ? null : there.reason,
    );
    this.tell(row.id);
    if (there.ok) this.read(tables.imports.get(row.id));
  }

  private read(row: ImportRow | null): void {
    if (!row || this.isClosed || this.readers.has(row.id)) return;
    const { tables, intake, log } = this.parts;
    const reader = new FolderReader(row, {
      ...{ tables, intake, atOnce: this.parts.atOnce },
      tell: () => this.tell(row.id),
    });
    this.readers.set(row.id, reader);
    this.held.delete(row.id);
    reader
      .run()
      .then((end) => this.ended(row.id, end.kind === 'stopped' ? null : end))
      .catch((error: unknown) => {
        // The database itself could not be written: the row says what is left to do.
        log.error({ err: error, import: row.id }, 'an import stopped');
        this.readers.delete(row.id);
        if (!this.held.has(row.id)) this.held.set(row.id, NOT_WRITTEN);
        this.tell(row.id);
        this.goOnLater(row.batchId);
      });
  }

  /** Until the database can be written again. */
  private goOnLater(batchId: number): void {
    const goOn = (): void => {
      if (!this.isClosed) this.resume(batchId).catch(() => this.goOnLater(batchId));
    };
    setTimeout(goOn, TRY_AGAIN_MS).unref();
  }

  private ended(
    id: number,
    end: { kind: 'done' } | { kind: 'broken'; path: string; error: unknown } | null,
  ): void {
    this.readers.delete(id);
    const { tables, log } = this.parts;
    if (!end || this.isClosed) return;
    if (end.kind === 'done') tables.imports.setState(id, 'done');
    else {
      log.warn({ err: end.error, import: id }, 'an import is paused');
      const problem = storageSentence(end.path, end.error);
      // Told also where the same full disk holds the database.
      this.held.set(id, problem);
      tables.imports.setState(id, 'paused', problem);
      this.held.delete(id);
    }
    this.tell(id);
  }

  private unfinishedOf(batchId: number): ImportRow | null {
    const row = this.parts.tables.imports.newestOf(batchId);
    return row && (row.state === 'reading' || row.state === 'paused') ? row : null;
  }

  private tell(id: number): void {
    const row = this.isClosed ? null : this.parts.tables.imports.get(id);
    if (row) this.parts.tell(this.view(row));
  }

  private view(row: ImportRow): ImportView {
    const { imports } = this.parts.tables;
    const { total, waiting, added, already, refused } = imports.counts(row.id);
    const held = row.state === 'reading' ? this.held.get(row.id) : undefined;
    const state = held === undefined ? row.state : 'paused';
    return {
      ...{ batchId: row.batchId, folder: row.folder, state, problem: held ?? row.problem },
      ...{ total, done: total - waiting, added, already, refusedCount: refused },
      refused: refused === 0 ? [] : imports.refused(row.id, LISTED_REFUSALS),
    };
  }
}

const NOT_WRITTEN =
  'Light Crest cannot write its own data: its disk may be full or away. It goes on by itself.';
const STILL_READING = 'This batch is still reading another folder.';
