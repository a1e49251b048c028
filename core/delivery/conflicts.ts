import type { ExistingRule } from '../contract/delivery.ts';

/** What to do about a name that may be taken already. */

export interface NameLookup {
  /** Taken by an earlier output of the same run: never replaced or skipped, whatever the rule. */
  readonly byRun: (fileName: string) => boolean;
  /** A file of that name is in the folder. */
  readonly inFolder: (fileName: string) => boolean;
}

export type NameDecision =
  | { readonly kind: 'write'; readonly fileName: string; readonly replaces: boolean }
  | { readonly kind: 'skip'; readonly fileName: string };

/** The name an output gets: two outputs of one run never share one, nothing is replaced unasked. */
export function decideName(
  base: string,
  extension: string,
  rule: ExistingRule,
  lookup: NameLookup,
): NameDecision {
  const plain = `${base}.${extension}`;
  if (!lookup.byRun(plain)) {
    if (!lookup.inFolder(plain)) return { kind: 'write', fileName: plain, replaces: false };
    if (rule === 'replace') return { kind: 'write', fileName: plain, replaces: true };
    if (rule === 'skip') return { kind: 'skip', fileName: plain };
  }
  for (let count = 2; ; count++) {
    const numbered = `${base}-${count}.${extension}`;
    if (!lookup.byRun(numbered) && !lookup.inFolder(numbered)) {
      return { kind: 'write', fileName: numbered, replaces: false };
    }
  }
}

/** How names are compared: file systems differ in case and in composed letters. */
export function nameKey(fileName: string): string {
  return fileName.normalize('NFC').toLowerCase();
}
