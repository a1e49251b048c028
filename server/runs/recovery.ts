import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';
import { GONE, isPublished } from './isPublished.ts';
import { deliveryOf, foldersOf } from './runNames.ts';
import { removeTemporaries } from './runTemporaries.ts';

/** What looking at the folder of a run may take. */
const LOOK_MS = 30_000;

/**
 * What a server left that ended: items that were being worked on, whatever became of their run. Their
 * temporary files go. An item whose output has its name already is written, since a temporary file
 * keeps its inode when it is renamed; the others wait again, or are cancelled with their run.
 *
 * @returns why it could not be done, as a sentence, or null
 */
export async function recoverRun(tables: Tables, run: RunRow): Promise<string | null> {
  const items = tables.items.interrupted(run.id);
  const finished = new Set<number>();
  for (const folder of foldersOf(run)) {
    try {
      await withinTime(LOOK_MS, folder, async () => {
        const here = items.filter((item) => deliveryOf(run, item).folder === folder);
        for (const item of here) if (await isFinished(item)) finished.add(item.id);
        await removeTemporaries(run, folder, new Set());
      });
    } catch (error) {
      if (!GONE.has((error as NodeJS.ErrnoException).code ?? '')) {
        return storageSentence(`${folder}/output`, error);
      }
    }
  }
  tables.together(() => {
    // As it is now: looking takes a while where a disk does not answer.
    const isCancelled = tables.runs.get(run.id)?.state === 'cancelled';
    for (const item of items) {
      if (finished.has(item.id)) tables.items.finish(item.id, 'written', item.output, null);
      else if (isCancelled) tables.items.finish(item.id, 'cancelled', null, null);
      else tables.items.requeue(item.id);
    }
  });
  return null;
}

function isFinished(item: RunItemRow): Promise<boolean> {
  if (item.status !== 'naming') return Promise.resolve(false);
  return isPublished({ ...item, bytes: item.bytesAfter });
}
