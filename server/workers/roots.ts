import { realpathSync } from 'node:fs';
import { delimiter, join, relative, resolve, sep } from 'node:path';
import { failure, success, type Result } from '#core/result';
import { isWithin } from '../storage/allowedFolders.ts';

/**
 * Folders that all machines of a house reach, each under a name and each machine at a place of its own.
 * Between machines a file is only spoken of as what lies below such a root.
 */
export interface SharedPlace {
  readonly root: string;
  /** Below the root, with `/` between folders. */
  readonly path: string;
}

const ROOT_NAME = /^[a-z][a-z0-9-]{0,30}$/;

export class Roots {
  private constructor(private readonly folders: ReadonlyMap<string, string>) {}

  /** @param words each `name=folder` */
  static of(words: readonly string[]): Result<Roots> {
    const folders = new Map<string, string>();
    for (const word of words) {
      const at = word.indexOf('=');
      const [name, folder] = [word.slice(0, Math.max(0, at)), word.slice(at + 1)];
      if (!ROOT_NAME.test(name) || folder === '') {
        return failure(
          `Expected a root as name=folder, such as photos=/srv/photos, found "${word}".`,
        );
      }
      if (folders.has(name)) return failure(`The root ${name} is given twice.`);
      folders.set(name, realPath(resolve(folder)));
    }
    return success(new Roots(folders));
  }

  /** Roots as an environment variable has them. */
  static inText(text: string): Result<Roots> {
    return Roots.of(text.split(delimiter).filter(Boolean));
  }

  get names(): string[] {
    return [...this.folders.keys()].sort();
  }

  /** Null: it lies below none of them. Of roots within each other the nearest counts. */
  placeOf(path: string): SharedPlace | null {
    const holding = [...this.folders].filter(([, folder]) => isWithin(folder, path));
    const [nearest] = holding.sort(([, a], [, b]) => b.length - a.length);
    if (!nearest) return null;
    const [root, folder] = nearest;
    return { root, path: relative(folder, path).split(sep).join('/') };
  }

  /** @returns null where there is no such root here, or it would lead out of it */
  pathOf({ root, path }: SharedPlace): string | null {
    const folder = this.folders.get(root);
    if (folder === undefined) return null;
    const found = join(folder, ...path.split('/'));
    return isWithin(folder, found) ? found : null;
  }
}

/** Where a share is mounted later, its folder may not be there yet. */
function realPath(folder: string): string {
  try {
    return realpathSync(folder);
  } catch {
    return folder;
  }
}
