import { renameSync } from 'node:fs';
import { rm, unlink, utimes } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import pLimit from 'p-limit';
import { failure, success, type Result } from '#core/result';
import type { PhotoPlace, PhotoRow } from '../db/photos.ts';
import type { Tables } from '../db/tables.ts';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { rawFileSentence } from '../imaging/photo/rawFile.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';
import type { PreviewFiles, TakenPhoto } from '../imaging/pool/imagingTasks.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

export interface IntakeParts {
  readonly tables: Tables;
  readonly paths: DataPaths;
  readonly imaging: Imaging;
  /** Photos read at once. */
  readonly atOnce: number;
}

/** A photo that is in a batch now; it may have been there before. */
export interface PhotoIn {
  readonly photoId: number;
  readonly isAlready: boolean;
}

/** A dropped file that was streamed to a path of ours. */
export interface DroppedFile {
  readonly path: string;
  readonly name: string;
  readonly modifiedMs: number | undefined;
  /** SHA-256, hexadecimal. */
  readonly contentHash: string;
}

const BATCH_GONE = 'The batch was deleted meanwhile.';

/**
 * Takes single photos into batches. They are read in imaging processes; what is thrown is about our own
 * disk or database, not about the photo.
 */
export class PhotoIntake {
  private readonly limit: ReturnType<typeof pLimit>;

  constructor(private readonly parts: IntakeParts) {
    this.limit = pLimit(parts.atOnce);
  }

  /** Takes in a dropped file: it is moved, or removed if it is no photo or is in the batch already. */
  async addCopied(batchId: number, file: DroppedFile): Promise<Result<PhotoIn>> {
    const { path, name, modifiedMs, contentHash } = file;
    try {
      const raw = rawFileSentence(name);
      if (raw !== null) return failure(raw);
      const known = this.parts.tables.photos.withContent(batchId, contentHash);
      if (known) return success({ photoId: known.id, isAlready: true });
      if (modifiedMs !== undefined) await utimes(path, new Date(), new Date(modifiedMs));
      const place = { batchId, name, path, origin: 'copied', contentHash } as const;
      const added = await this.add(place);
      return added.ok ? added : failure(added.reason.replaceAll(basename(path), name));
    } finally {
      await unlink(path).catch(() => undefined);
    }
  }

  /** Takes in a photo where it lies: read, never copied, never written. */
  async addInPlace(batchId: number, path: string, signal?: AbortSignal): Promise<Result<PhotoIn>> {
    const known = this.parts.tables.photos.atPath(batchId, path);
    if (known) return success({ photoId: known.id, isAlready: true });
    const place = { batchId, name: basename(path), path, origin: 'in-place' } as const;
    return this.add({ ...place, contentHash: null }, signal);
  }

  /** Reads a photo once more that has changed on disk. @returns the row as it is then */
  async readAgain(photo: PhotoRow, note: string): Promise<Result<PhotoRow>> {
    const { tables } = this.parts;
    return this.read(photo.path, (taken, files) => {
      tables.together(() => {
        tables.photos.readAgain(photo.id, taken, note);
        this.keepPreviews(files, photo.id);
      });
      const row = tables.photos.get(photo.id);
      return row ? success(row) : failure(BATCH_GONE);
    });
  }

  close(): void {
    this.limit.clearQueue();
  }

  private add(place: PhotoPlace, signal?: AbortSignal): Promise<Result<PhotoIn>> {
    const { tables, paths } = this.parts;
    return this.read(
      place.path,
      (taken, files) =>
        // Row, previews and the photo's own name at once; looked at again, since the same photo may
        // have come in while this one was read.
        tables.together((): Result<PhotoIn> => {
          if (!tables.batches.get(place.batchId)) return failure(BATCH_GONE);
          const known =
            place.contentHash === null
              ? tables.photos.atPath(place.batchId, place.path)
              : tables.photos.withContent(place.batchId, place.contentHash);
          if (known) return success({ photoId: known.id, isAlready: true });
          const id = tables.photos.insert(place, taken);
          this.keepPreviews(files, id);
          if (place.origin === 'copied') {
            const path = paths.photo(id, safeEnding(place.name));
            renameSync(place.path, path);
            tables.photos.setPath(id, path);
          }
          return success({ photoId: id, isAlready: false });
        }),
      signal,
    );
  }

  private async read<T>(
    path: string,
    keep: (taken: TakenPhoto, files: PreviewFiles) => Result<T>,
    signal?: AbortSignal,
  ): Promise<Result<T>> {
    const stem = this.parts.paths.freshIncoming('photo');
    const files = { proxy: `${stem}-proxy`, tile: `${stem}-tile` };
    try {
      const taken = await this.limit(() => this.parts.imaging.prepare(path, files, signal));
      return taken.ok ? keep(taken.value, files) : taken;
    } finally {
      // Where they were kept they have other names by now.
      await Promise.all(Object.values(files).map((file) => rm(file, { force: true })));
    }
  }

  private keepPreviews(files: PreviewFiles, photoId: number): void {
    const { paths } = this.parts;
    renameSync(files.proxy, paths.preview(photoId, 'proxy'));
    renameSync(files.tile, paths.preview(photoId, 'tile'));
  }
}

function safeEnding(name: string): string {
  const ending = extname(name).toLowerCase();
  return PHOTO_ENDING.test(`photo${ending}`) ? ending : '';
}
