import { statSync, unlinkSync } from 'node:fs';
import type { RunItemRow } from '../db/runItems.ts';
import type { Tables } from '../db/tables.ts';

/**
 * What a killed server left: items that were being worked on. Their temporary files go, and they
 * are worked on again, except those whose output already has its name: a temporary file keeps its
 * inode when it is renamed, so a finished output is recognised and not made twice.
 */
export function recoverItems(
  tables: Tables,
  runId: number,
  temporaryPath: (item: RunItemRow) => string,
): void {
  for (const item of tables.items.interrupted(runId)) {
    const finished = item.status === 'naming' && isFinished(item);
    removeIfThere(temporaryPath(item));
    if (finished) tables.items.finish(item.id, 'written', item.output, null);
    else tables.items.requeue(item.id);
  }
}

function isFinished(item: RunItemRow): boolean {
  if (item.output === null || item.outputInode === null) return false;
  const found = statSync(item.output, { bigint: true, throwIfNoEntry: false });
  return found !== undefined && String(found.ino) === item.outputInode;
}

function removeIfThere(path: string): void {
  try {
    unlinkSync(path);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code !== 'ENOENT' && code !== 'ENOTDIR') throw error;
  }
}
