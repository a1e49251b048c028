import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import Database from 'better-sqlite3';
import { validate } from '#core/contract/explain';
import { failure, type Result } from '#core/result';
import { databaseVersion } from '../db/open.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import {
  backupNoteSchema,
  DATABASE_NAME,
  isBackedUp,
  NOTE_NAME,
  type BackupNote,
} from './backupContents.ts';
import { STAGED_DATA, STAGING_PREFIX, WAITING_FOLDER } from './takeUpRestore.ts';
import { Unzipped } from './unzipped.ts';

/** The note is a few lines. */
const MOST_NOTE_BYTES = 10_000;

/**
 * Lays the content of a backup ready in a data folder: unpacked, compared with its checksums, its database
 * opened. What is there stays as it is until `takeUpRestore`, so a server may be at work meanwhile. One that
 * was laid ready before and not taken up yet gives way.
 */
export async function stageRestore(
  backup: string,
  dataFolder: string,
): Promise<Result<BackupNote>> {
  const staging = join(dataFolder, `${STAGING_PREFIX}${randomUUID()}`);
  let zip: Unzipped;
  try {
    zip = await Unzipped.open(backup);
  } catch (error) {
    return failure(`${backup} cannot be read as a ZIP (${(error as Error).message}).`);
  }
  try {
    await mkdir(join(staging, STAGED_DATA), { recursive: true });
    const note = await unpack(zip, backup, join(staging, STAGED_DATA));
    const problem = note.ok ? databaseProblem(join(staging, STAGED_DATA, DATABASE_NAME)) : null;
    if (!note.ok || problem !== null) {
      await rm(staging, { recursive: true, force: true });
      return note.ok ? failure(`${backup}: ${problem}`) : note;
    }
    await writeFile(join(staging, NOTE_NAME), JSON.stringify(note.value), { flush: true });
    await rm(join(dataFolder, WAITING_FOLDER), { recursive: true, force: true });
    await rename(staging, join(dataFolder, WAITING_FOLDER));
    return note;
  } catch (error) {
    await rm(staging, { recursive: true, force: true }).catch(() => undefined);
    const { code = '' } = error as NodeJS.ErrnoException;
    return code.startsWith('E')
      ? failure(storageSentence(dataFolder, error))
      : failure(`${backup} cannot be unpacked (${(error as Error).message}).`);
  } finally {
    zip.close();
  }
}

async function unpack(zip: Unzipped, backup: string, into: string): Promise<Result<BackupNote>> {
  let note: Result<BackupNote> | null = null;
  let hasDatabase = false;
  for await (const entry of zip.entries()) {
    const { fileName: name } = entry;
    if (name === NOTE_NAME) {
      note = noteIn((await zip.bytes(entry, MOST_NOTE_BYTES)).toString('utf8'), backup);
      if (!note.ok) return note;
    } else if (!isBackedUp(name)) {
      return failure(`${backup} is no backup of Light Crest: it holds ${name}.`);
    } else {
      hasDatabase ||= name === DATABASE_NAME;
      await zip.extract(entry, into);
    }
  }
  if (note && hasDatabase) return note;
  return failure(
    `${backup} is no backup of Light Crest: it has no ${note ? DATABASE_NAME : NOTE_NAME}.`,
  );
}

function noteIn(text: string, backup: string): Result<BackupNote> {
  let value: unknown = null;
  try {
    value = JSON.parse(text);
  } catch {
    // The sentence below says what was expected.
  }
  const note = validate(backupNoteSchema, value);
  return note.ok ? note : failure(`${backup}: ${NOTE_NAME}: ${note.reason}`);
}

/** Why a database cannot be taken, or null. */
function databaseProblem(path: string): string | null {
  try {
    const db = new Database(path, { readonly: true });
    try {
      if (db.pragma('quick_check', { simple: true }) !== 'ok') return 'its database is damaged.';
      const version = Number(db.pragma('user_version', { simple: true }));
      const newest = databaseVersion();
      return version > newest ? 'it was made by a newer Light Crest.' : null;
    } finally {
      db.close();
    }
  } catch (error) {
    return `its database cannot be opened (${(error as Error).message}).`;
  }
}
