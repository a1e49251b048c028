import { readdir } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import type { RunAwayView } from '#core/contract/http';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import { withinTime } from '../storage/withinTime.ts';

/** What listing a folder may take; one on another computer may never answer. */
const LIST_MS = 10_000;

/** Which of the files of a run are not there now. Each folder is listed once, however many are in it. */
export async function writtenAway(
  { id }: Pick<RunRow, 'id'>,
  { items, documents }: Pick<Tables, 'items' | 'documents'>,
  allowed: Pick<AllowedFolders, 'resolve'>,
): Promise<RunAwayView> {
  const outputs = items.outputs(id);
  const made = documents.ofRun(id).flatMap(({ status, output }) => {
    return status === 'written' && output !== null ? [{ output }] : [];
  });
  const folders = new Set([...outputs, ...made].map(({ output }) => dirname(output)));
  const names = new Map<string, ReadonlySet<string>>();
  for (const folder of folders) names.set(folder, await namesIn(folder, allowed));
  const isAway = ({ output }: { readonly output: string }): boolean =>
    !names.get(dirname(output))?.has(basename(output));
  return {
    outputs: outputs.filter(isAway).map((one) => one.id),
    documents: made.filter(isAway).length,
  };
}

/** None where it is away, does not answer, or may not be read any more. */
async function namesIn(
  folder: string,
  allowed: Pick<AllowedFolders, 'resolve'>,
): Promise<ReadonlySet<string>> {
  if (!(await allowed.resolve(folder)).ok) return new Set();
  const names = await withinTime(LIST_MS, folder, () => readdir(folder)).catch(() => []);
  return new Set(names);
}
