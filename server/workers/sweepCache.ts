import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';

const UNUSED_MS = 30 * 86_400_000;
/** Content by its hash, and files of passes: nothing else is called so. */
const OWN_NAME = /^([0-9a-f]{64}(\.[0-9a-f]{12})?|[0-9a-f]{16})\.\w+$/;

/**
 * Takes out of folders of a worker what it put there and has not been used for 30 days. Other workers may
 * be using them, and whatever else lies there stays.
 */
export async function sweepCache(folders: readonly string[], nowMs = Date.now()): Promise<void> {
  for (const folder of folders) {
    const names = await readdir(folder).catch(() => []);
    for (const path of names
      .filter((name) => OWN_NAME.test(name))
      .map((name) => join(folder, name))) {
      const found = await stat(path).catch(() => null);
      if (found?.isFile() && nowMs - found.mtimeMs > UNUSED_MS) await rm(path, { force: true });
    }
  }
}
