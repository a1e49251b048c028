import { stat } from 'node:fs/promises';
import { existsSync, lstatSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { ExistingRule } from '#core/contract/delivery';
import { decideName, nameKey, type NameDecision } from '#core/delivery/conflicts';
import { publish } from '../storage/atomicWrite.ts';
import { storageSentence } from '../storage/storageErrors.ts';

/**
 * The last step of an output: a finished temporary file gets its name. Names that outputs of the
 * same run have are never reused, and a file that is a source of anything is never replaced.
 */
export interface OutputPlace {
  readonly folder: string;
  /** File name without extension, already safe. */
  readonly base: string;
  readonly extension: string;
  readonly existing: ExistingRule;
}

/** What one run knows: the names it has given, by `nameKey`, and the files it must not touch. */
export interface RunKnowledge {
  readonly claimed: Set<string>;
  readonly sources: SourceGuard;
}

export type PlacedOutput =
  | { readonly status: 'written'; readonly output: string }
  | { readonly status: 'skipped'; readonly output: string }
  | { readonly status: 'failed'; readonly reason: string };

/** The files that are sources, by device and inode, so that links to them are found out too. */
export class SourceGuard {
  private readonly identities = new Set<string>();

  async add(path: string): Promise<void> {
    const found = await stat(path, { bigint: true }).catch(() => null);
    if (found) this.addIdentity(String(found.dev), String(found.ino));
  }

  addIdentity(device: string, inode: string): void {
    this.identities.add(`${device}:${inode}`);
  }

  isSource(path: string): boolean {
    const found = statSync(path, { bigint: true, throwIfNoEntry: false });
    return found !== undefined && this.identities.has(`${found.dev}:${found.ino}`);
  }
}

/** The name an output would get now, or why it cannot have one. The name is claimed at once. */
export function claimName(
  place: OutputPlace,
  knowledge: RunKnowledge,
): NameDecision | { readonly kind: 'refused'; readonly reason: string } {
  const plain = `${place.base}.${place.extension}`;
  const plainPath = join(place.folder, plain);
  const taken = knowledge.claimed.has(nameKey(plain));
  if (place.existing !== 'number' && !taken && knowledge.sources.isSource(plainPath)) {
    return {
      kind: 'refused',
      reason: `${plainPath} is one of the photos themselves, and originals are never replaced. Change the name pattern or the folder.`,
    };
  }
  const decision = decideName(place.base, place.extension, place.existing, {
    byRun: (name) => knowledge.claimed.has(nameKey(name)),
    inFolder: (name) => isThere(join(place.folder, name)),
  });
  if (decision.kind === 'write') knowledge.claimed.add(nameKey(decision.fileName));
  return decision;
}

/** Even a link to nowhere takes its name. */
function isThere(path: string): boolean {
  return existsSync(path) || lstatSync(path, { throwIfNoEntry: false }) !== undefined;
}

/** @param intend is told the final path before the name is given, so that a crash can be mended */
export async function placeOutput(
  temporaryPath: string,
  place: OutputPlace,
  knowledge: RunKnowledge,
  intend: (output: string, replaces: boolean) => void = () => undefined,
): Promise<PlacedOutput> {
  for (;;) {
    const decision = claimName(place, knowledge);
    if (decision.kind === 'refused') return { status: 'failed', reason: decision.reason };
    const output = join(place.folder, decision.fileName);
    if (decision.kind === 'skip') return { status: 'skipped', output };
    try {
      intend(output, decision.replaces);
      if (await publish(temporaryPath, output, decision.replaces)) {
        return { status: 'written', output };
      }
      // Somebody else took the name between the look and the link: decide again.
      knowledge.claimed.delete(nameKey(decision.fileName));
    } catch (error) {
      knowledge.claimed.delete(nameKey(decision.fileName));
      return { status: 'failed', reason: storageSentence(output, error) };
    }
  }
}
