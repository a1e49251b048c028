import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { BACKUP_FOLDERS, DATABASE_NAME } from './backupContents.ts';

/** A backup that was unpacked and waits for the data to be nobody's. */
export const WAITING_FOLDER = 'restore-waiting';
/** One that is just being unpacked, with an id behind it. */
export const STAGING_PREFIX = 'restore-unpacked-';
/** Below that: what becomes the data. */
export const STAGED_DATA = 'data';

const PLAN = 'plan.json';

export interface TakenUp {
  /** The folder with what was there; null: nothing was. */
  readonly before: string | null;
}

interface Plan {
  /** Folder that keeps what was there. */
  readonly before: string;
  /** All that was there is in it. */
  readonly isOut: boolean;
}

/**
 * Puts a backup that was laid ready in the place of the data, and keeps what was there in a folder beside
 * it. To be called by whoever holds the lock of the data, before the database is opened. It only renames,
 * and writes down how far it is: where it is killed, the next start goes on.
 *
 * @returns what was done; null: nothing waited
 */
export function takeUpRestore(dataFolder: string): TakenUp | null {
  removeLeftovers(dataFolder);
  const waiting = join(dataFolder, WAITING_FOLDER);
  const staged = join(waiting, STAGED_DATA);
  if (!existsSync(staged)) {
    rmSync(waiting, { recursive: true, force: true });
    return null;
  }
  let plan = readPlan(waiting);
  if (!plan) {
    plan = { before: freeFolder(dataFolder), isOut: false };
    writePlan(waiting, plan);
  }
  const before = join(dataFolder, plan.before);
  if (!plan.isOut) {
    mkdirSync(before, { recursive: true });
    moveAll(dataFolder, before, dataNames(dataFolder));
    plan = { ...plan, isOut: true };
    writePlan(waiting, plan);
  }
  moveAll(staged, dataFolder, readdirSync(staged));
  rmSync(waiting, { recursive: true, force: true });
  flush(dataFolder);
  return { before: keptOrNull(before) };
}

const DAY_MS = 24 * 60 * 60 * 1_000;

/** Of an unpacking that was killed; a younger one may still be under way. */
function removeLeftovers(dataFolder: string): void {
  for (const name of readdirSync(dataFolder)) {
    if (!name.startsWith(STAGING_PREFIX)) continue;
    const path = join(dataFolder, name);
    if (Date.now() - statSync(path).mtimeMs > DAY_MS)
      rmSync(path, { recursive: true, force: true });
  }
}

/** A folder that nothing had to be put into is taken away again. */
function keptOrNull(before: string): string | null {
  if (readdirSync(before).length > 0) return before;
  rmSync(before, { recursive: true });
  return null;
}

/** What makes up the data, as it is there; the database with what it has not put into its file yet. */
function dataNames(dataFolder: string): string[] {
  const files = ['', '-wal', '-shm', '-journal'].map((rest) => DATABASE_NAME + rest);
  return [...files, ...BACKUP_FOLDERS].filter((name) => existsSync(join(dataFolder, name)));
}

function moveAll(from: string, to: string, names: readonly string[]): void {
  for (const name of names) renameSync(join(from, name), join(to, name));
  flush(from);
  flush(to);
}

function freeFolder(dataFolder: string): string {
  const day = new Date().toISOString().slice(0, 'YYYY-MM-DD'.length);
  for (let count = 1; ; count++) {
    const name = `before-restore-${day}${count > 1 ? `-${count}` : ''}`;
    if (!existsSync(join(dataFolder, name))) return name;
  }
}

function readPlan(waiting: string): Plan | null {
  try {
    return JSON.parse(readFileSync(join(waiting, PLAN), 'utf8')) as Plan;
  } catch {
    return null;
  }
}

function writePlan(waiting: string, plan: Plan): void {
  const beside = join(waiting, `${PLAN}.part`);
  writeFileSync(beside, JSON.stringify(plan), { flush: true });
  renameSync(beside, join(waiting, PLAN));
  flush(waiting);
}

/** Names are only safe on disk once their folder is; some systems cannot do that. */
function flush(folder: string): void {
  try {
    const handle = openSync(folder, 'r');
    try {
      fsyncSync(handle);
    } finally {
      closeSync(handle);
    }
  } catch {
    // As good as that system gives it.
  }
}
