import { createWriteStream } from 'node:fs';
import { open, opendir, rm, unlink } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import Database from 'better-sqlite3';
import { failure, success, type Result } from '#core/result';
import { isWithin } from '../storage/allowedFolders.ts';
import {
  publish,
  TEMPORARY_PREFIX,
  TEMPORARY_SUFFIX,
  temporaryName,
} from '../storage/atomicWrite.ts';
import { dataPaths } from '../storage/dataPaths.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { BACKUP_FOLDERS, BACKUP_FORMAT, DATABASE_NAME, NOTE_NAME } from './backupContents.ts';
import type { BackupNote } from './backupContents.ts';

/** What a backup holds, as it is told. */
export interface WrittenBackup {
  readonly files: number;
  /** Photos that are read where they lie, and so are not in it. */
  readonly photosElsewhere: number;
  /** Files that went while it was made. */
  readonly gone: number;
}

/**
 * Writes the whole of a data folder into one ZIP, while a server may be at work on it: the database as it
 * was at one moment, then the files. Those never change once they have their name, so one that comes later
 * is too many, and none is too few. The ZIP appears whole or not at all.
 *
 * @param replaces a file of that name that is there
 */
export async function writeBackup(
  dataFolder: string,
  target: string,
  replaces: boolean,
): Promise<Result<WrittenBackup>> {
  if (isWithin(dataFolder, target)) {
    return failure(`Expected a file outside of the data folder, found ${target}.`);
  }
  const id = randomUUID();
  const temporary = join(dirname(target), temporaryName(id));
  const snapshot = join(dirname(target), temporaryName(`${id}-database`));
  try {
    const told = await sendBackup(dataFolder, snapshot, createWriteStream(temporary));
    const handle = await open(temporary, 'r');
    await handle.sync();
    await handle.close();
    const isPublished = await publish(temporary, target, replaces);
    return isPublished ? success(told) : failure(`${target} is there already.`);
  } catch (error) {
    return failure(problemOf(error, target));
  } finally {
    await unlink(temporary).catch(() => undefined);
  }
}

/**
 * The same to wherever it is to go.
 *
 * @param snapshot where a copy of the database may lie meanwhile
 * @throws what the disk, the database or the other end says
 */
export async function sendBackup(
  dataFolder: string,
  snapshot: string,
  to: Writable,
): Promise<WrittenBackup> {
  try {
    const note = await snapshotOf(dataPaths(dataFolder).database, snapshot);
    return await writeZip(dataFolder, snapshot, note, to);
  } finally {
    for (const rest of ['', '-wal', '-shm', '-journal']) {
      await rm(snapshot + rest, { force: true }).catch(() => undefined);
    }
  }
}

function problemOf(error: unknown, target: string): string {
  const code = (error as { code?: string }).code ?? '';
  return code.startsWith('SQLITE_')
    ? `The database could not be copied (${(error as Error).message}).`
    : storageSentence(target, error);
}

/** All pages at once: in steps it would begin anew with every row that a server writes. */
const ALL_PAGES = 0x7fff_ffff;

async function snapshotOf(database: string, snapshot: string): Promise<BackupNote> {
  const db = new Database(database, { readonly: true, fileMustExist: true });
  try {
    await db.backup(snapshot, { progress: () => ALL_PAGES });
  } finally {
    db.close();
  }
  const copy = new Database(snapshot);
  try {
    // One file that stands for itself.
    copy.pragma('journal_mode = DELETE');
    const elsewhere = copy.prepare("SELECT count(*) FROM photos WHERE origin = 'in-place'").pluck();
    return {
      ...BACKUP_FORMAT,
      made_at: new Date().toISOString(),
      database: Number(copy.pragma('user_version', { simple: true })),
      photos_elsewhere: Number(elsewhere.get()),
    };
  } finally {
    copy.close();
  }
}

/** Stored as they are: photos do not shrink any further. */
async function writeZip(
  dataFolder: string,
  snapshot: string,
  note: BackupNote,
  to: Writable,
): Promise<WrittenBackup> {
  const zip = new ZipArchive({ store: true });
  let gone = 0;
  zip.on('warning', (problem: Error & { code?: string }) => {
    if (problem.code === 'ENOENT') gone++;
    else zip.destroy(problem);
  });
  const written = pipeline(zip, to);
  // It may fail while files are still being listed; whoever waits below is told.
  written.catch(() => undefined);
  zip.append(`${JSON.stringify(note, null, 2)}\n`, { name: NOTE_NAME });
  zip.file(snapshot, { name: DATABASE_NAME });
  let files = 0;
  for (const folder of BACKUP_FOLDERS) {
    for await (const name of filesBelow(dataFolder, folder)) {
      if (zip.destroyed) break;
      zip.file(join(dataFolder, name), { name });
      files++;
    }
  }
  await Promise.all([zip.finalize(), written]);
  return { files: files - gone, photosElsewhere: note.photos_elsewhere, gone };
}

/** Names below the data folder, with `/` between them; what is only half written yet is left out. */
async function* filesBelow(dataFolder: string, folder: string): AsyncGenerator<string> {
  const entries = await opendir(join(dataFolder, folder)).catch(() => null);
  if (!entries) return;
  for await (const entry of entries) {
    const name = `${folder}/${entry.name}`;
    const isHalf = entry.name.startsWith(TEMPORARY_PREFIX) && entry.name.endsWith(TEMPORARY_SUFFIX);
    if (entry.isDirectory()) yield* filesBelow(dataFolder, name);
    else if (entry.isFile() && !isHalf) yield name;
  }
}
