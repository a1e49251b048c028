import { mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunDelivery } from '../db/runs.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';
import { failed, type ExportParts, type ItemEnd } from './exportParts.ts';

/** Where an export reads and writes: whether it may, and whether it can. */

/** What looking at the folder of a run may take. */
const LOOK_MS = 30_000;

/** Makes our own folder where it is missing; any other must be there. */
export async function openFolder(
  { folder, makesFolder }: RunDelivery,
  { allowed, paths }: ExportParts,
): Promise<ItemEnd | null> {
  const isAllowed = await allowed.resolve(folder);
  if (!isAllowed.ok) return failed(isAllowed.reason);
  try {
    return await withinTime(LOOK_MS, folder, async () => {
      if (isWithin(paths.exports, folder)) await mkdir(folder, { recursive: true });
      else if (makesFolder) await mkdir(folder).catch(unlessThere);
      if ((await stat(folder)).isDirectory()) return null;
      return failed(`${folder} is a file, not a folder.`);
    });
  } catch (error) {
    const sentence = storageSentence(join(folder, 'output'), error);
    const { code } = error as NodeJS.ErrnoException;
    const isSilent = code === 'ETIMEDOUT' || code === 'ESTALE';
    return isSilent ? { kind: 'held', problem: sentence } : failed(sentence);
  }
}

/** @throws what else stood in the way */
function unlessThere(error: NodeJS.ErrnoException): void {
  if (error.code !== 'EEXIST') throw error;
}

export async function sourceProblem(
  item: Pick<RunItemRow, 'sourcePath'>,
  { allowed, paths }: ExportParts,
): Promise<string | null> {
  if (isWithin(paths.photos, item.sourcePath)) return null;
  const isAllowed = await allowed.resolve(item.sourcePath);
  return isAllowed.ok ? null : isAllowed.reason;
}
