import { realpath } from 'node:fs/promises';
import { isAbsolute, resolve, sep } from 'node:path';
import { failure, success, type Result } from '#core/result';
import { realPath } from './realPath.ts';
import { withinTime } from './withinTime.ts';

/** What following the links of a path may take; a disk on another computer may never answer. */
const LOOK_MS = 8_000;
/** How long what was found of an allowed folder holds, and how long one that is silent is left alone. */
const FOUND_MS = 1_000;
const SILENT_MS = 30_000;

interface RealRoot {
  readonly untilMs: number;
  /** Null: it is not there, or does not answer. */
  readonly real: Promise<string | null>;
}

/** Everything that is read or written by a path somebody gave goes through here. */
export class AllowedFolders {
  private readonly reals = new Map<string, RealRoot>();

  /** @param roots the allowed folders of the moment: configuration, settings, the exports folder */
  constructor(private readonly roots: () => readonly string[]) {}

  list(): string[] {
    return [...new Set(this.roots())];
  }

  /**
   * The real path, all links followed, if it lies in an allowed folder. What does not exist yet is
   * judged by the folder it would be made in.
   */
  async resolve(path: string): Promise<Result<string>> {
    if (!isAbsolute(path)) return failure(`Expected a full path, found "${path}".`);
    const full = resolve(path);
    let real: string;
    try {
      real = await withinTime(LOOK_MS, path, () => realPath(full));
    } catch {
      return failure(`${path} does not answer: its disk or the computer it is on may be away.`);
    }
    // Those it seems to lie in first: one that is silent must not hold up what lies in another.
    const roots = this.list().sort((a, b) => Number(isWithin(b, full)) - Number(isWithin(a, full)));
    for (const root of roots) {
      const realRoot = await this.realRoot(root);
      if (realRoot !== null && isWithin(realRoot, real)) return success(real);
    }
    const named = this.list().join(', ') || 'none yet';
    return failure(
      `${path} is not in an allowed folder. Allowed: ${named}. More can be added in Settings.`,
    );
  }

  private realRoot(root: string): Promise<string | null> {
    const known = this.reals.get(root);
    if (known && known.untilMs > Date.now()) return known.real;
    const real = withinTime(LOOK_MS, root, () => realpath(root)).catch((error: unknown) => {
      const isSilent = (error as NodeJS.ErrnoException).code === 'ETIMEDOUT';
      if (isSilent) this.reals.set(root, { untilMs: Date.now() + SILENT_MS, real });
      return null;
    });
    this.reals.set(root, { untilMs: Date.now() + FOUND_MS, real });
    return real;
  }
}

export function isWithin(root: string, path: string): boolean {
  return path === root || path.startsWith(root.endsWith(sep) ? root : root + sep);
}
