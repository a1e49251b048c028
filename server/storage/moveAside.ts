import { constants } from 'node:fs';
import { copyFile, mkdir, rename, unlink } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import { failure, success, type Result } from '#core/result';
import { isTaken } from './sourceGuard.ts';
import { storageSentence } from './storageErrors.ts';

/**
 * Moves a file to a folder, below which it keeps its place; a name that is taken there is counted on.
 *
 * @param name of the file, with the folders it lies in
 * @returns where it lies now
 */
export async function moveAside(
  path: string,
  folder: string,
  name: string,
): Promise<Result<string>> {
  const target = join(folder, name);
  const ending = extname(target);
  const stem = join(dirname(target), basename(target, ending));
  try {
    await mkdir(dirname(target), { recursive: true });
    for (let count = 1; ; count++) {
      const free = count === 1 ? target : `${stem}-${count}${ending}`;
      if (await isTaken(free)) continue;
      await move(path, free);
      return success(free);
    }
  } catch (error) {
    return failure(`${path} could not be moved aside. ${storageSentence(target, error)}`);
  }
}

async function move(from: string, to: string): Promise<void> {
  try {
    await rename(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
    // To another disk: there first, then gone from here.
    await copyFile(from, to, constants.COPYFILE_EXCL);
    await unlink(from);
  }
}
