import { rm } from 'node:fs/promises';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import type { BatchRow } from './db/batches.ts';
import type { PhotoRow } from './db/photos.ts';
import type { Tables } from './db/tables.ts';
import { conflict } from './http/errors.ts';
import type { FolderImports } from './imports/folderImports.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** Batches with what lies on disk for them. */
export class Batches {
  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly imports: FolderImports,
  ) {}

  /** Puts it into the bin. @throws where a run still needs it */
  async discard(id: number): Promise<void> {
    await this.freed(id);
    this.tables.bin.put('batches', id);
  }

  /** Photos that are taken out of a batch lie in the bin together. */
  discardPhotos(batch: BatchRow, photos: readonly PhotoRow[]): void {
    const { tables } = this;
    if (photos.length === 0) return;
    const what = photos.length === 1 ? photos[0].name : `${photos.length} photos`;
    const name = `${what} of ${batch.name}`.slice(0, NAME_MAX_LENGTH);
    tables.together(() => {
      const taken = tables.batches.insertTaken(name, batch);
      for (const photo of photos) tables.photos.move(photo.id, taken);
      tables.bin.put('batches', taken);
    });
  }

  /** Removes it for good. @throws where a run still needs it */
  async remove(id: number): Promise<void> {
    await this.freed(id);
    const photos = this.tables.photos.ofBatch(id);
    this.tables.batches.remove(id);
    await Promise.all(photos.map((photo) => this.removeFiles(photo)));
  }

  /** Our own files only: a photo that is read in place stays where it is. */
  private async removeFiles(photo: PhotoRow): Promise<void> {
    const own = [this.paths.preview(photo.id, 'proxy'), this.paths.preview(photo.id, 'tile')];
    if (photo.origin === 'copied') own.push(photo.path);
    await Promise.all(own.map((path) => rm(path, { force: true })));
  }

  /** Nothing reads or needs it any more. */
  private async freed(id: number): Promise<void> {
    this.checkIsFree(id);
    await this.imports.cancel(id);
    this.checkIsFree(id);
  }

  private checkIsFree(id: number): void {
    if (this.tables.runs.underWayWith('batch', id).length === 0) return;
    const name = this.tables.batches.get(id)?.name ?? 'The batch';
    throw conflict(`A run still exports ${name}. Wait for its end, or cancel it first.`);
  }
}
