import { mkdir, readdir, unlink } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { TEMPORARY_PREFIX, TEMPORARY_SUFFIX } from '#server/storage/atomicWrite';
import { storageSentence } from '#server/storage/storageErrors';
import { CallError } from '../exit.ts';

/** The folder that outputs of a call go to; it is made, and cleared of what killed calls left. */
export async function openOutFolder(given: string): Promise<string> {
  const folder = resolve(given);
  try {
    await mkdir(folder, { recursive: true });
    await clearLeftovers(folder);
  } catch (error) {
    throw new CallError(storageSentence(join(folder, 'output'), error));
  }
  return folder;
}

/** Temporary files of calls that were killed; those of a call still running are left alone. */
async function clearLeftovers(folder: string): Promise<void> {
  const pattern = new RegExp(`^\\${TEMPORARY_PREFIX}(\\d+)-\\d+\\${TEMPORARY_SUFFIX}$`);
  for (const name of await readdir(folder)) {
    const pid = pattern.exec(name)?.[1];
    if (pid && !isRunning(Number(pid))) await unlink(join(folder, name)).catch(() => undefined);
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
