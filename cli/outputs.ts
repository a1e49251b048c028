import { randomUUID } from 'node:crypto';
import { mkdir } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { publish, temporaryName, writeTemporary } from '#server/storage/atomicWrite';
import { storageSentence } from '#server/storage/storageErrors';
import { CallError } from './exit.ts';

/** Writes a file that the call names: whole or not at all, in place of one that is there. */
export async function writeOutput(path: string, content: string | Uint8Array): Promise<void> {
  const target = resolve(path);
  const temporary = join(dirname(target), temporaryName(randomUUID()));
  try {
    await mkdir(dirname(target), { recursive: true });
    await writeTemporary(temporary, [Buffer.from(content)], null);
    await publish(temporary, target, true);
  } catch (error) {
    throw new CallError(storageSentence(target, error));
  }
}
