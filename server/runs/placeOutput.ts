import { join } from 'node:path';
import pLimit from 'p-limit';
import type { ExistingRule } from '#core/contract/delivery';
import { decideName, nameKey, type NameDecision } from '#core/delivery/conflicts';
import { publish } from '../storage/atomicWrite.ts';
import { withinTime } from '../storage/withinTime.ts';
import { isTaken, SourceGuard } from '../storage/sourceGuard.ts';
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
  /** The name it has by its position in the run, where files are replaced. */
  readonly plannedName?: string | undefined;
}

/** What one run knows of names: those it has given, and the files it must not touch. */
export class RunKnowledge {
  readonly sources = new SourceGuard();
  private readonly claimed = new Set<string>();
  /** Names are decided one after the other: each look at the folder takes a moment. */
  readonly inOrder = pLimit(1);

  has(folder: string, fileName: string): boolean {
    return this.claimed.has(keyOf(folder, fileName));
  }

  claim(folder: string, fileName: string): void {
    this.claimed.add(keyOf(folder, fileName));
  }

  release(folder: string, fileName: string): void {
    this.claimed.delete(keyOf(folder, fileName));
  }
}

function keyOf(folder: string, fileName: string): string {
  return join(folder, nameKey(fileName));
}

export type PlacedOutput =
  | { readonly status: 'written'; readonly output: string }
  | { readonly status: 'skipped'; readonly output: string }
  | { readonly status: 'failed'; readonly reason: string };

type Decision = NameDecision | { readonly kind: 'refused'; readonly reason: string };

/** The name an output would get now, or why it cannot have one. Nothing is claimed by looking. */
export async function lookForName(place: OutputPlace, knowledge: RunKnowledge): Promise<Decision> {
  const { folder, base, extension, existing, plannedName } = place;
  const inFolder = async (name: string): Promise<boolean> => {
    const path = join(folder, name);
    if (await isTaken(path)) return true;
    // The name of an original that is away for a moment is taken as well.
    return existing === 'number' && knowledge.sources.isNameOfSource(path);
  };
  const decision =
    plannedName === undefined
      ? await decideName(base, extension, existing, {
          byRun: (name) => knowledge.has(folder, name),
          inFolder,
        })
      : await decidePlanned(plannedName, inFolder);
  if (existing === 'number') return decision;
  const path = join(folder, decision.fileName);
  if (!(await knowledge.sources.isSource(path))) return decision;
  return {
    kind: 'refused',
    reason: `${path} is one of the photos themselves, and originals are never replaced. Change the name pattern or the folder.`,
  };
}

async function decidePlanned(
  fileName: string,
  inFolder: (name: string) => Promise<boolean>,
): Promise<NameDecision> {
  return { kind: 'write', fileName, replaces: await inFolder(fileName) };
}

/** What looking at a folder may take; one on another computer may never answer. */
const LOOK_MS = 30_000;
/** A name that is taken and free again each time it is looked at is no folder to write to. */
const MOST_TRIES = 1_000;

/**
 * @param source looked at again right before, since a program may have saved it under a new inode
 * @param intend is told the final path before the name is given, so that a crash can be mended
 */
export async function placeOutput(
  temporaryPath: string,
  place: OutputPlace,
  knowledge: RunKnowledge,
  source: string,
  intend: (output: string, replaces: boolean) => Promise<void> | void = () => undefined,
): Promise<PlacedOutput> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    let output = join(place.folder, 'output');
    try {
      const decision = await withinTime(LOOK_MS, place.folder, () =>
        claimedName(place, knowledge, source),
      );
      if (decision.kind === 'refused') return { status: 'failed', reason: decision.reason };
      output = join(place.folder, decision.fileName);
      if (decision.kind === 'skip') return { status: 'skipped', output };
      try {
        await intend(output, decision.replaces);
        if (
          await withinTime(LOOK_MS, place.folder, () =>
            publish(temporaryPath, output, decision.replaces),
          )
        )
          return { status: 'written', output };
        // Somebody else took the name between the look and the link: decide again.
        knowledge.release(place.folder, decision.fileName);
      } catch (error) {
        knowledge.release(place.folder, decision.fileName);
        throw error;
      }
    } catch (error) {
      return { status: 'failed', reason: storageSentence(output, error) };
    }
  }
  return { status: 'failed', reason: `No name could be had in ${place.folder}; its disk is odd.` };
}

function claimedName(
  place: OutputPlace,
  knowledge: RunKnowledge,
  source: string,
): Promise<Decision> {
  return knowledge.inOrder(async () => {
    await knowledge.sources.add(source);
    const decision = await lookForName(place, knowledge);
    if (decision.kind === 'write') knowledge.claim(place.folder, decision.fileName);
    return decision;
  });
}
