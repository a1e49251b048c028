import { unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { temporaryName } from './atomicWrite.ts';
import { storageSentence } from './storageErrors.ts';
import { withinTime } from './withinTime.ts';

const TRIED_BYTES = 64 * 1_024;
const TRY_MS = 30_000;

/** Why a folder cannot be written to now, by trying it: a full disk, one that is away; or null. */
export async function canBeWritten(folder: string): Promise<string | null> {
  const path = join(folder, temporaryName(randomUUID()));
  try {
    await withinTime(TRY_MS, folder, () => writeFile(path, new Uint8Array(TRIED_BYTES)));
    return null;
  } catch (error) {
    return storageSentence(path, error);
  } finally {
    await unlink(path).catch(() => undefined);
  }
}
