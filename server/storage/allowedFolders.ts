import { existsSync, realpathSync } from 'node:fs';
import { basename, dirname, isAbsolute, join, resolve, sep } from 'node:path';
import { failure, success, type Result } from '#core/result';

/** Everything that is read or written by a path somebody gave goes through here. */
export class AllowedFolders {
  /** @param roots the allowed folders of the moment: configuration, settings, the exports folder */
  constructor(private readonly roots: () => readonly string[]) {}

  list(): string[] {
    return [...new Set(this.roots())];
  }

  /**
   * The real path, all links followed, if it lies in an allowed folder. What does not exist yet is
   * judged by the folder it would be made in.
   */
  resolve(path: string): Result<string> {
    if (!isAbsolute(path)) return failure(`Expected a full path, found "${path}".`);
    const real = realPath(resolve(path));
    const allowed = this.list().some((root) => existsSync(root) && isWithin(realPath(root), real));
    if (allowed) return success(real);
    const named = this.list().join(', ') || 'none yet';
    return failure(
      `${path} is not in an allowed folder. Allowed: ${named}. More can be added in Settings.`,
    );
  }
}

export function isWithin(root: string, path: string): boolean {
  return path === root || path.startsWith(root.endsWith(sep) ? root : root + sep);
}

function realPath(path: string): string {
  try {
    return realpathSync(path);
  } catch {
    const parent = dirname(path);
    return parent === path ? path : join(realPath(parent), basename(path));
  }
}
