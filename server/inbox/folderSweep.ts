import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { failure, success, type Result } from '#core/result';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';

/** A photo in a watched folder, as it lies there at the moment. */
export interface FoundFile {
  readonly path: string;
  /** Below the watched folder, with `/` between folders on every system. */
  readonly name: string;
  readonly bytes: number;
  readonly modifiedMs: number;
}

/** A share on another computer may never answer. */
const LOOK_MS = 30_000;

/**
 * All photos in a folder and the folders below it, by name. Hidden files are left out: programs write under
 * such names before a file gets its own. Links to folders are not followed, since they may lead in circles.
 *
 * @returns a failure where the folder itself cannot be looked into, as when its disk is away
 */
export async function sweepFolder(root: string): Promise<Result<FoundFile[]>> {
  const found: FoundFile[] = [];
  try {
    await withinTime(LOOK_MS, root, () => sweep(root, '', found));
  } catch (error) {
    return failure(storageSentence(join(root, 'photo'), error));
  }
  return success(found.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })));
}

async function sweep(root: string, below: string, found: FoundFile[]): Promise<void> {
  const entries = await readdir(join(root, below), { withFileTypes: true });
  for (const entry of entries) {
    if (entry.name.startsWith('.')) continue;
    const name = below === '' ? entry.name : `${below}/${entry.name}`;
    if (entry.isDirectory()) {
      // One that cannot be entered, or has just gone, keeps nobody from the others.
      await sweep(root, name, found).catch(() => undefined);
    } else if (PHOTO_ENDING.test(entry.name)) {
      const path = join(root, name);
      const file = await stat(path).catch(() => null);
      if (file?.isFile()) {
        found.push({ path, name, bytes: file.size, modifiedMs: file.mtimeMs });
      }
    }
  }
}
