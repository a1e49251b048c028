import { renameSync } from 'node:fs';
import { readdir, unlink, utimes, writeFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import pLimit from 'p-limit';
import type { ImportView } from '#core/contract/http';
import { failure, success, type Result } from '#core/result';
import type { PhotoPlace } from '../db/photos.ts';
import type { Tables } from '../db/tables.ts';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { preparePhoto, type PreparedPhoto } from '../imaging/photo/prepare.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

/** A folder with more photos than this is more likely a whole disk named by mistake. */
export const MAX_FOLDER_PHOTOS = 20_000;

/** Refusals beyond these are counted, not listed. */
const LISTED_REFUSALS = 200;

export interface ImportHouse {
  readonly tables: Tables;
  readonly paths: DataPaths;
  readonly atOnce: number;
  readonly tell: (progress: ImportView) => void;
}

/** Takes photos into batches: dropped ones as copies, those of a folder where they lie. */
export class PhotoImports {
  private readonly limit: ReturnType<typeof pLimit>;
  private readonly folders = new Map<number, FolderImport>();
  private temporaries = 0;

  constructor(private readonly house: ImportHouse) {
    this.limit = pLimit(house.atOnce);
  }

  /** A free path for an upload, on the disk where the copy will stay. */
  incomingPath(): string {
    return join(this.house.paths.incoming, `upload-${process.pid}-${++this.temporaries}`);
  }

  /**
   * Takes in a file that has been dropped and streamed to `incomingPath`; it is moved, or removed if
   * it is no photo.
   */
  async addCopied(
    batchId: number,
    incomingPath: string,
    name: string,
    modifiedMs: number | undefined,
  ): Promise<Result<number>> {
    try {
      if (modifiedMs !== undefined) {
        await utimes(incomingPath, new Date(), new Date(modifiedMs));
      }
      const prepared = await this.limit(() => preparePhoto(incomingPath));
      if (!prepared.ok) {
        return failure(prepared.reason.replaceAll(basename(incomingPath), name));
      }
      const place = { batchId, name, path: incomingPath, origin: 'copied' as const };
      return success(await this.keep(place, prepared.value));
    } finally {
      await unlink(incomingPath).catch(() => undefined);
    }
  }

  /** Takes in a photo where it lies: read, never copied, never written. */
  async addInPlace(batchId: number, path: string): Promise<Result<number>> {
    const prepared = await preparePhoto(path);
    if (!prepared.ok) return prepared;
    const place = { batchId, name: basename(path), path, origin: 'in-place' as const };
    return success(await this.keep(place, prepared.value));
  }

  /** Begins to read a folder in place; progress is told, the answer does not wait for it. */
  async addFolder(batchId: number, folder: string): Promise<Result<void>> {
    if (this.folders.has(batchId)) return failure('This batch is still reading another folder.');
    let names: string[];
    try {
      names = await readdir(folder, { recursive: true });
    } catch (error) {
      return failure(folderSentence(folder, error));
    }
    const photos = names
      .filter((name) => PHOTO_ENDING.test(name) && !/(^|[/\\])\./.test(name))
      .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    if (photos.length === 0) return failure(`${folder} holds no photos.`);
    if (photos.length > MAX_FOLDER_PHOTOS) {
      return failure(
        `Expected at most ${MAX_FOLDER_PHOTOS.toLocaleString('en')} photos in a folder, found ` +
          `${photos.length.toLocaleString('en')} in ${folder}. Choose a folder inside it.`,
      );
    }
    const reading = new FolderImport(batchId, folder, photos.length, this.house.tell);
    this.folders.set(batchId, reading);
    void this.readFolder(reading, photos).finally(() => this.folders.delete(batchId));
    return success(undefined);
  }

  cancelFolder(batchId: number): void {
    this.folders.get(batchId)?.cancel();
  }

  progress(batchId: number): ImportView | null {
    return this.folders.get(batchId)?.view() ?? null;
  }

  close(): void {
    for (const reading of this.folders.values()) reading.cancel();
    this.limit.clearQueue();
  }

  private async readFolder(reading: FolderImport, names: readonly string[]): Promise<void> {
    reading.report();
    const known = this.house.tables.photos.pathsOfBatch(reading.batchId);
    await Promise.all(
      names.map((name) =>
        this.limit(async () => {
          if (reading.isCancelled) return;
          const path = join(reading.folder, name);
          if (known.has(path)) return reading.already();
          const added = await this.addInPlace(reading.batchId, path);
          if (added.ok) reading.added();
          else reading.refused(name, added.reason);
        }),
      ),
    );
    reading.end();
  }

  /** Previews first, under passing names; then the row and all names at once. */
  private async keep(place: PhotoPlace, prepared: PreparedPhoto): Promise<number> {
    const { tables, paths } = this.house;
    const passing = this.incomingPath();
    await Promise.all([
      writeFile(`${passing}-proxy`, prepared.proxy),
      writeFile(`${passing}-tile`, prepared.tile),
    ]);
    return tables.together(() => {
      const id = tables.photos.insert(place, prepared);
      renameSync(`${passing}-proxy`, paths.preview(id, 'proxy'));
      renameSync(`${passing}-tile`, paths.preview(id, 'tile'));
      if (place.origin === 'copied') {
        const path = paths.photo(id, safeEnding(place.name));
        renameSync(place.path, path);
        tables.photos.setPath(id, path);
      }
      return id;
    });
  }
}

/** The reading of one folder: its counts and who is told of them. */
class FolderImport {
  isCancelled = false;
  private counts = { done: 0, added: 0, already: 0 };
  private readonly refusals: { name: string; reason: string }[] = [];
  private finished = false;
  private lastTold = 0;

  constructor(
    readonly batchId: number,
    readonly folder: string,
    private readonly total: number,
    private readonly tell: (progress: ImportView) => void,
  ) {}

  added(): void {
    this.counts.added++;
    this.step();
  }

  already(): void {
    this.counts.already++;
    this.step();
  }

  refused(name: string, reason: string): void {
    if (this.refusals.length < LISTED_REFUSALS) this.refusals.push({ name, reason });
    this.step();
  }

  cancel(): void {
    this.isCancelled = true;
  }

  end(): void {
    this.finished = true;
    this.report();
  }

  report(): void {
    this.lastTold = Date.now();
    this.tell(this.view());
  }

  view(): ImportView {
    const ended = this.isCancelled ? 'cancelled' : 'done';
    return {
      batchId: this.batchId,
      folder: this.folder,
      total: this.total,
      ...this.counts,
      refused: this.refusals,
      state: this.finished ? ended : 'reading',
    };
  }

  /** Four times a second is as often as a person can follow. */
  private step(): void {
    this.counts.done++;
    const TELL_EVERY_MS = 250;
    if (Date.now() - this.lastTold >= TELL_EVERY_MS) this.report();
  }
}

function safeEnding(name: string): string {
  const ending = extname(name).toLowerCase();
  return PHOTO_ENDING.test(`photo${ending}`) ? ending : '';
}

export function folderSentence(folder: string, error: unknown): string {
  switch ((error as NodeJS.ErrnoException | null)?.code) {
    case 'ENOENT':
      return `${folder} is not there: it was moved, renamed or its disk was removed.`;
    case 'ENOTDIR':
      return `${folder} is a file, not a folder.`;
    case 'EACCES':
    case 'EPERM':
      return `${folder} may not be read by this user.`;
    default:
      return `${folder} could not be read (${(error as Error).message}).`;
  }
}
