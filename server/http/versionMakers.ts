import type { Request } from 'express';
import type { ChangedKind } from '#core/contract/http';
import { changedMeanwhile } from './errors.ts';
import { TAB_HEADER } from './tellChanges.ts';

/** Something that has versions, as it is now. */
export interface Versioned {
  readonly what: ChangedKind;
  /** Null for what there is one of. */
  readonly id: number | null;
  readonly name: string;
  readonly version: number;
}

/** Versions beyond these are old enough to be asked about. */
const KEPT = 1_000;

/**
 * Which window made which version. A change that names an older version is refused where another
 * window made one since; a window whose answer was lost on its way does not stand in its own way.
 */
export class VersionMakers {
  private readonly tabs = new Map<string, string>();

  /** @throws 409 where the change was made to a version that another window has changed since */
  check(request: Request, thing: Versioned, base: number | undefined): void {
    const { name, version } = thing;
    if (base === undefined || base === version) return;
    const tab = request.get(TAB_HEADER);
    const isNear = base < version && version - base <= KEPT;
    const since = isNear ? Array.from({ length: version - base }, (_, at) => base + 1 + at) : [];
    const isOwn = isNear && since.every((one) => this.tabs.get(keyOf(thing, one)) === tab);
    if (tab === undefined || !isOwn) throw changedMeanwhile(name, version);
  }

  /** A request made this version. */
  note(request: Request, thing: Versioned): void {
    const tab = request.get(TAB_HEADER);
    if (tab === undefined) return;
    this.tabs.set(keyOf(thing, thing.version), tab);
    const [oldest] = this.tabs.keys();
    if (this.tabs.size > KEPT && oldest !== undefined) this.tabs.delete(oldest);
  }
}

function keyOf({ what, id }: Versioned, version: number): string {
  return `${what} ${id} ${version}`;
}
