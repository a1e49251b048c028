import { lstat, stat } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import { nameKey } from '#core/delivery/conflicts';
import { realPath } from './realPath.ts';

/**
 * The files that are never written over: photos, scans, artwork. A file is known by its path, which
 * stays when a program saves it under a new inode, and by device and inode, which finds out links. Both
 * are looked at again at the moment a name is to be given, since either may have changed by then.
 */
export class SourceGuard {
  private readonly identities = new Set<string>();
  private readonly paths = new Set<string>();
  private readonly byKey = new Map<string, string[]>();
  private readonly byInode = new Map<string, string[]>();

  /** Looks at a source as it is now; one that is away is known by its path alone. */
  async add(path: string): Promise<void> {
    const real = await realPath(resolve(path));
    this.addPath(real);
    const found = await statOf(real);
    if (!found) return;
    this.addIdentity(found.device, found.inode);
    addTo(this.byInode, found.inode, real);
  }

  /** A source that cannot be looked at. */
  addPath(path: string): void {
    const full = resolve(path);
    this.paths.add(full);
    addTo(this.byKey, nameKey(full), full);
  }

  /** As it was noted at another time: a second net. */
  addIdentity(device: string, inode: string): void {
    this.identities.add(`${device}:${inode}`);
  }

  /** Whether a name that nothing has is a source's, as while some programs save it. */
  async isNameOfSource(path: string): Promise<boolean> {
    const full = resolve(path);
    return this.paths.has(join(await realPath(dirname(full)), basename(full)));
  }

  /** Whether a file that gets this name would take the place of a source. */
  async isSource(path: string): Promise<boolean> {
    const real = await realPath(resolve(path));
    // Also where the file is away for a moment, as it is while some programs save.
    if (this.paths.has(real)) return true;
    const found = await statOf(real);
    if (!found) return false;
    const { device, inode } = found;
    if (this.identities.has(`${device}:${inode}`)) return true;
    // A name that differs in case alone may be the same file, and so may one under the same inode
    // where a disk has come back as another device.
    const alike = [...(this.byKey.get(nameKey(real)) ?? []), ...(this.byInode.get(inode) ?? [])];
    for (const source of alike) {
      const now = await statOf(source);
      if (now?.device === device && now.inode === inode) return true;
    }
    return false;
  }
}

interface FileIdentity {
  readonly device: string;
  readonly inode: string;
}

async function statOf(path: string): Promise<FileIdentity | null> {
  const found = await stat(path, { bigint: true }).catch(() => null);
  return found && { device: String(found.dev), inode: String(found.ino) };
}

/** Even a link to nowhere takes its name. */
export async function isTaken(path: string): Promise<boolean> {
  return (await lstat(path).catch(() => null)) !== null;
}

function addTo(map: Map<string, string[]>, key: string, value: string): void {
  const known = map.get(key);
  if (!known) map.set(key, [value]);
  else if (!known.includes(value)) known.push(value);
}
