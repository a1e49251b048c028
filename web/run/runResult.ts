import type { RunItemView, RunView } from '#core/contract/http';
import { counted } from '../ui/format.ts';

/** What came of a run so far, for people. */
export interface RunResult {
  /** Files of one photo each; others were made ready for a document. */
  readonly written: readonly RunItemView[];
  /** Whether some of it is put together of all photos. */
  readonly isOfAll: boolean;
  /** All that can be taken away: written files, and documents where there are any. */
  readonly files: number;
  readonly failed: readonly RunItemView[];
  /** Opened again after they were written, and not as they should be. */
  readonly doubtful: readonly RunItemView[];
  /** Written, but with something to know about it. */
  readonly noted: readonly RunItemView[];
  readonly isDocumentFailed: boolean;
  /** '' where nothing was opened again. */
  readonly verified: string;
  readonly failures: string;
}

export function runResult(run: RunView, items: readonly RunItemView[]): RunResult {
  const written = items.filter((item) => item.status === 'written' && item.outputName !== null);
  const failed = items.filter((item) => item.status === 'failed');
  const doubtful = written.filter((item) => item.readBack?.problem);
  const isOfAll = run.documents.length > 0;
  const documents = run.documents.reduce((sum, one) => sum + one.written, 0);
  const isDocumentFailed = run.documents.some(({ error }) => error !== null);
  const noFailure = isDocumentFailed ? 'Not put together' : 'Nothing failed';
  return {
    ...{ written, isOfAll, failed, doubtful, isDocumentFailed },
    files: isOfAll ? written.length + documents : run.written,
    noted: items.filter((item) => item.note !== null),
    verified: verifiedText(written, doubtful.length),
    failures: failed.length > 0 ? `${counted(failed.length, 'file')} failed` : noFailure,
  };
}

/** Names that are written out where many photos have the same to tell. */
const MOST_NAMED = 3;

/**
 * What is to be told of photos, each sentence once, after the names of those that it is about: what is wrong with a
 * folder or a mark does not hold them.
 */
export function toldOf(
  items: readonly RunItemView[],
  sentence: (item: RunItemView) => string | null,
): string[] {
  const names = new Map<string, string[]>();
  for (const item of items) {
    const text = sentence(item) ?? 'It failed.';
    const known = names.get(text);
    if (known) known.push(item.sourceName);
    else names.set(text, [item.sourceName]);
  }
  return [...names].map(([text, of]) =>
    of.some((name) => text.includes(name)) ? text : `${namesText(of)}: ${text}`,
  );
}

function namesText(names: readonly string[]): string {
  const some = names.slice(0, MOST_NAMED).join(', ');
  return names.length > MOST_NAMED ? `${some} and ${names.length - MOST_NAMED} more` : some;
}

function verifiedText(written: readonly RunItemView[], doubtful: number): string {
  const opened = written.filter((item) => item.readBack !== null).length;
  if (opened === 0) return '';
  const isAll = doubtful === 0 && opened === written.length;
  return isAll ? 'all verified' : `${opened - doubtful} verified`;
}

/** That files are not where they were written. */
export function awayText(away: number, files: number): string {
  const some = `${away} of ${counted(files, 'file')} ${away === 1 ? 'is' : 'are'}`;
  const which =
    away < files ? `${some} not` : files === 1 ? 'The file is not' : 'None of the files is';
  return `${which} where it was written: moved, renamed or deleted since, or its disk is away.`;
}
