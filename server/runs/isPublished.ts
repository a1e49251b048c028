import { stat } from 'node:fs/promises';

/** A file that a server was giving its name to when it ended. */
export interface NamedFile {
  readonly output: string | null;
  readonly outputInode: string | null;
  readonly temporary: string | null;
  readonly bytes: number | null;
}

/** Folders that went with what was in them leave nothing to clear up. */
export const GONE: ReadonlySet<string> = new Set(['ENOENT', 'ENOTDIR']);

/**
 * Whether it has its name: a temporary file keeps its inode when it is renamed. Some file systems make
 * inodes up anew each time; there a file is known by its length and by its temporary name being gone.
 */
export async function isPublished({
  output,
  outputInode,
  temporary,
  bytes,
}: NamedFile): Promise<boolean> {
  if (output === null) return false;
  try {
    const found = await stat(output, { bigint: true });
    if (String(found.ino) === outputInode) return true;
    return Number(found.size) === bytes && (await isGone(temporary));
  } catch (error) {
    if (GONE.has((error as NodeJS.ErrnoException).code ?? '')) return false;
    throw error;
  }
}

async function isGone(path: string | null): Promise<boolean> {
  if (path === null) return false;
  const found = await stat(path).catch((error: unknown) => error as NodeJS.ErrnoException);
  return 'code' in found && found.code === 'ENOENT';
}
