import { existsSync } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { format } from 'date-fns';
import type { Subfolder } from '#core/contract/http';
import { nameKey } from '#core/delivery/conflicts';
import { failure, success, type Result } from '#core/result';
import type { RunDelivery } from '../db/runs.ts';
import { isWithin, type AllowedFolders } from '../storage/allowedFolders.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';
import { batchFolderName } from './runNames.ts';

/** The folder that files of a delivery go to. @param own where none was chosen */
export function placeOf(
  folder: string | null,
  subfolder: Subfolder,
  batchName: string,
  own: string,
): Pick<RunDelivery, 'folder' | 'makesFolder'> {
  if (folder === null) return { folder: own, makesFolder: false };
  if (subfolder === 'none') return { folder, makesFolder: false };
  const today = format(new Date(), 'yyyy-MM-dd');
  const below = subfolder === 'batch' ? batchFolderName(batchName) : today;
  return { folder: join(folder, below), makesFolder: true };
}

/** What looking at a folder may take; one on another computer may never answer. */
const LOOK_MS = 15_000;

/** Where files may be written. */
export interface FoldersKnown {
  readonly exportsFolder: string;
  readonly allowed: AllowedFolders;
}

/** What lies in the folder already, or why nothing can be written there. */
export async function namesThere(
  { folder, name, makesFolder }: RunDelivery,
  { allowed, exportsFolder }: FoldersKnown,
): Promise<Result<Set<string>>> {
  const isAllowed = await allowed.resolve(folder);
  if (!isAllowed.ok) return isAllowed;
  try {
    const names = await withinTime(LOOK_MS, folder, async () => {
      if (!(await stat(folder)).isDirectory())
        throw Object.assign(new Error(), { code: 'ENOTDIR' });
      return readdir(folder);
    });
    return success(new Set(names.map(nameKey)));
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    // Only our own folder is made unasked: a missing one may be a disk that is not plugged in.
    if (code === 'ENOENT' && isWithin(exportsFolder, folder)) return success(new Set());
    if (code === 'ENOENT' && makesFolder && existsSync(dirname(folder))) return success(new Set());
    const choose = `Choose another folder for ${name}, or make it.`;
    if (code === 'ENOENT') return failure(`${folder} is not there. ${choose}`);
    return failure(storageSentence(join(folder, 'output'), error));
  }
}
