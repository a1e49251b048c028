import { createHash } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { access, rename, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Small things that a library or tool takes only as a file, such as a colour profile: each is written
 * once, under a name that its bytes give, and stays until the system clears its temporary files.
 *
 * @returns its path
 */
export async function keptFile(bytes: Uint8Array, ending: string): Promise<string> {
  const name = createHash('sha256').update(bytes).digest('hex');
  const path = join(ownFolder(), `${name}.${ending}`);
  if (await isThere(path)) return path;
  // Several processes may write the same one: each under a name of its own, then renamed.
  const temporary = `${path}.${process.pid}`;
  await writeFile(temporary, bytes);
  await rename(temporary, path);
  return path;
}

const isThere = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );

/** One for each user: nobody else may put a file there. */
function ownFolder(): string {
  const folder = join(tmpdir(), `light-crest-${process.getuid?.() ?? 'user'}`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  return folder;
}
