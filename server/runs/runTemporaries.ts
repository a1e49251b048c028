import { randomBytes } from 'node:crypto';
import { readdir, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import { temporaryName } from '../storage/atomicWrite.ts';
import { deliveryOf } from './runNames.ts';

/**
 * Temporary files of a run, in the folders of its outputs. The run's time in their names keeps two data
 * folders apart that share a destination; the rest is another for each try, so that a process that
 * outlived its server never writes to the file of the next one.
 */
export function temporaryPath(run: RunRow, item: Pick<RunItemRow, 'id' | 'delivery'>): string {
  const attempt = randomBytes(3).toString('hex');
  return join(deliveryOf(run, item).folder, temporaryName(`${stemOf(run)}-${item.id}-${attempt}`));
}

/**
 * Removes what is left of them in a folder; those that are being written stay.
 *
 * @param inWork paths that are
 * @throws what the file system says where the folder cannot be read
 */
export async function removeTemporaries(
  run: RunRow,
  folder: string,
  inWork: ReadonlySet<string>,
): Promise<void> {
  const [prefix] = temporaryName(`${stemOf(run)}-@`).split('@');
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    if (name.startsWith(prefix) && !inWork.has(path)) await removeIfThere(path);
  }
}

function stemOf(run: RunRow): string {
  return `${Date.parse(run.createdAt)}-${run.id}`;
}

async function removeIfThere(path: string): Promise<void> {
  try {
    await unlink(path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}
