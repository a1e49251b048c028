import { randomUUID } from 'node:crypto';
import { mkdir, unlink } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { publish, temporaryName, writeTemporary } from '#server/storage/atomicWrite';
import { isTaken, SourceGuard } from '#server/storage/sourceGuard';
import { storageSentence } from '#server/storage/storageErrors';
import { CallError } from './exit.ts';

export interface OutputOptions {
  /** Files that the call reads: never written, whatever is asked. */
  readonly sources: readonly string[];
  /** Replaces another file that is there. */
  readonly force: boolean;
}

/** A file that was given is never written over; said before anything is read. */
export async function refuseSources(
  path: string,
  { sources }: Pick<OutputOptions, 'sources'>,
): Promise<void> {
  const guard = new SourceGuard();
  for (const source of sources) await guard.add(source);
  if (await guard.isSource(resolve(path))) {
    throw new CallError(`${path} is a file that was given, and those are never written over.`);
  }
}

/** Whether a file that the call names may be written; said before the work is done. */
export async function checkOutput(path: string, options: OutputOptions): Promise<void> {
  await refuseSources(path, options);
  if (!options.force && (await isTaken(resolve(path)))) {
    throw new CallError(`${path} is there already. Choose another name, or replace it by --force.`);
  }
}

/** Writes a file that the call names: whole or not at all. */
export async function writeOutput(
  path: string,
  content: string | Uint8Array,
  options: OutputOptions,
): Promise<void> {
  const target = resolve(path);
  const temporary = join(dirname(target), temporaryName(randomUUID()));
  try {
    await mkdir(dirname(target), { recursive: true });
    await writeTemporary(temporary, [Buffer.from(content)], null);
    await checkOutput(path, options);
    const isPublished = await publish(temporary, target, options.force);
    if (!isPublished) throw new CallError(`${path} appeared while it was being made.`);
  } catch (error) {
    await unlink(temporary).catch(() => undefined);
    throw error instanceof CallError ? error : new CallError(storageSentence(target, error));
  }
}
