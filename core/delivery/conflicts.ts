import type { ExistingRule } from '../contract/delivery.ts';

/** What to do about a name that may be taken already. */

export interface NameLookup {
  /** Taken by an earlier output of the same run: never replaced or skipped, whatever the rule. */
  readonly byRun: (fileName: string) => boolean;
  /** A file of that name is in the folder. */
  readonly inFolder: (fileName: string) => Promise<boolean>;
}

export type NameDecision =
  | { readonly kind: 'write'; readonly fileName: string; readonly replaces: boolean }
  | { readonly kind: 'skip'; readonly fileName: string };

/**
 * The name an output gets: two outputs of one run never share one, nothing is replaced unasked. Where
 * files are replaced, the second of two outputs of one name is always `name-2`, so that the same run
 * gives the same files again.
 */
export async function decideName(
  base: string,
  extension: string,
  rule: ExistingRule,
  lookup: NameLookup,
): Promise<NameDecision> {
  for (const candidate of candidates(base, extension)) {
    if (lookup.byRun(candidate)) continue;
    const isThere = await lookup.inFolder(candidate);
    if (!isThere) return { kind: 'write', fileName: candidate, replaces: false };
    if (rule === 'replace') return { kind: 'write', fileName: candidate, replaces: true };
    if (rule === 'skip') return { kind: 'skip', fileName: candidate };
  }
  throw new Error('Names have no end.');
}

/** The names of all outputs of a run in its order, where what is in the folder plays no part. */
export function plannedNames(
  outputs: readonly { readonly base: string; readonly extension: string }[],
): string[] {
  const taken = new Set<string>();
  const lastTried = new Map<string, number>();
  return outputs.map(({ base, extension }) => {
    const plain = nameKey(fileName(base, extension));
    // Thousands of photos of one name would else be counted through again for each.
    const skipped = lastTried.get(plain) ?? 0;
    let tried = skipped;
    for (const candidate of candidates(base, extension, skipped)) {
      tried++;
      if (taken.has(nameKey(candidate))) continue;
      taken.add(nameKey(candidate));
      lastTried.set(plain, tried);
      return candidate;
    }
    throw new Error('Names have no end.');
  });
}

function* candidates(base: string, extension: string, from = 0): Generator<string> {
  if (from === 0) yield fileName(base, extension);
  for (let count = Math.max(2, from + 1); ; count++) yield fileName(`${base}-${count}`, extension);
}

/** @param extension without its dot; empty for a folder */
export function fileName(base: string, extension: string): string {
  return extension === '' ? base : `${base}.${extension}`;
}

/** How names are compared: file systems differ in case and in composed letters. */
export function nameKey(fileName: string): string {
  return fileName.normalize('NFC').toLowerCase();
}
