import { randomBytes } from 'node:crypto';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import { temporaryName } from '../storage/atomicWrite.ts';
import type { DataPaths } from '../storage/dataPaths.ts';
import { deliveryOf } from './runNames.ts';

/**
 * Temporary files of a run, in the folders of its outputs. The run's time in their names keeps two data
 * folders apart that share a destination; the rest is another for each try, so that a process that
 * outlived its server never writes to the file of the next one.
 */
export function temporaryPath(
  run: RunRow,
  item: Pick<RunItemRow, 'id' | 'delivery'>,
  { preparedOf }: Pick<DataPaths, 'preparedOf'>,
): string {
  const attempt = randomBytes(3).toString('hex');
  const { rule, folder } = deliveryOf(run, item);
  const where = rule.kind === 'files' ? folder : preparedOf(run.id);
  return runTemporary(run, where, `${item.id}-${attempt}`);
}

/** @param what tells it from all others of the run */
export function runTemporary(run: RunRow, folder: string, what: string): string {
  return join(folder, temporaryName(`${stemOf(run)}-${what}`));
}

/** Stem of the temporary files that workers make for a run: theirs stay while they may still be taken up. */
export function workerStem(stem: string): string {
  return `w${stem}`;
}

/**
 * Removes what workers left in a folder of a run that has ended.
 *
 * @throws what the file system says where the folder cannot be read
 */
export function removeLeftByWorkers(run: RunRow, folder: string): Promise<void> {
  return removeWithStem(workerStem(stemOf(run)), folder, new Set());
}

/**
 * Removes what is left of them in a folder; those that are being written stay.
 *
 * @param inWork paths that are
 * @throws what the file system says where the folder cannot be read
 */
export function removeTemporaries(
  run: RunRow,
  folder: string,
  inWork: ReadonlySet<string>,
): Promise<void> {
  return removeWithStem(stemOf(run), folder, inWork);
}

async function removeWithStem(
  stem: string,
  folder: string,
  inWork: ReadonlySet<string>,
): Promise<void> {
  const [prefix] = temporaryName(`${stem}-@`).split('@');
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    if (name.startsWith(prefix) && !inWork.has(path)) await removeIfThere(path);
  }
}

/** Tells a run from those of other data folders as well. */
export function stemOf(run: Pick<RunRow, 'createdAt' | 'id'>): string {
  return `${Date.parse(run.createdAt)}-${run.id}`;
}

async function removeIfThere(path: string): Promise<void> {
  try {
    // A show is a folder.
    await rm(path, { recursive: true });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}
