import { link, lstat, open, rename, unlink } from 'node:fs/promises';
import { dirname } from 'node:path';
import { flushFolder } from './flushFolder.ts';

/**
 * Files appear whole or not at all: bytes go to a temporary name in the destination, are flushed,
 * then get their name. A reader never sees half a file, and a crash leaves at most a temporary one.
 */

export const TEMPORARY_PREFIX = '.light-crest-';
export const TEMPORARY_SUFFIX = '.part';

export function temporaryName(id: string): string {
  return `${TEMPORARY_PREFIX}${id}${TEMPORARY_SUFFIX}`;
}

/**
 * Writes, dates and flushes a temporary file; on failure nothing is left of it.
 *
 * @param whileFlushing begun when all is written: a disk takes some milliseconds, in which the file can be read
 */
export async function writeTemporary(
  path: string,
  parts: readonly Uint8Array[],
  modified: Date | null,
  whileFlushing?: () => Promise<void> | undefined,
): Promise<void> {
  const file = await open(path, 'w');
  try {
    for (const part of joined(parts)) await writeAll(file, part);
    if (modified) await file.utimes(new Date(), modified);
    const [flushed, other] = await Promise.allSettled([file.sync(), whileFlushing?.()]);
    if (flushed.status === 'rejected') throw flushed.reason as Error;
    if (other.status === 'rejected') throw other.reason as Error;
  } catch (error) {
    await file.close().catch(() => undefined);
    await unlink(path).catch(() => undefined);
    throw error;
  }
  await file.close();
}

/** Parts up to this size are written together: each write takes its way through other threads. */
const SMALL_BYTES = 65_536;

function* joined(parts: readonly Uint8Array[]): Generator<Uint8Array> {
  let small: Uint8Array[] = [];
  for (const part of parts) {
    if (part.length <= SMALL_BYTES) {
      small.push(part);
      continue;
    }
    if (small.length > 0) yield Buffer.concat(small);
    small = [];
    yield part;
  }
  if (small.length > 0) yield Buffer.concat(small);
}

async function writeAll(file: Awaited<ReturnType<typeof open>>, bytes: Uint8Array): Promise<void> {
  let at = 0;
  // A write may be partial, for example just before a disk is full.
  while (at < bytes.length) at += (await file.write(bytes, at, bytes.length - at)).bytesWritten;
}

/** File systems without hard links (FAT, some network shares) answer one of these. */
const NO_LINKS: ReadonlySet<string> = new Set([
  'EPERM',
  'ENOTSUP',
  'EOPNOTSUPP',
  'ENOSYS',
  'EMLINK',
]);

/**
 * Gives a temporary file its name. Without `replaces` an existing file of that name is left alone,
 * even one that appeared a moment ago.
 *
 * @returns false where the name is taken; the temporary file is then still there
 */
export async function publish(
  temporary: string,
  target: string,
  replaces: boolean,
): Promise<boolean> {
  if (replaces) {
    await rename(temporary, target);
  } else if (!(await linkedExclusively(temporary, target))) {
    return false;
  }
  await flushFolder(dirname(target));
  return true;
}

async function linkedExclusively(temporary: string, target: string): Promise<boolean> {
  try {
    await link(temporary, target);
    // Where a folder only takes and never gives, the second name stays; the output is there.
    await unlink(temporary).catch(() => undefined);
    return true;
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? '';
    if (code === 'EEXIST') return false;
    if (!NO_LINKS.has(code)) throw error;
  }
  if (await exists(target)) return false;
  await rename(temporary, target);
  return true;
}

async function exists(path: string): Promise<boolean> {
  return (await lstat(path).catch(() => null)) !== null;
}
