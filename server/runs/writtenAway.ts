import { readdir } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import type { RunAwayView } from '#core/contract/http';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { withinTime } from '../storage/withinTime.ts';

/** What listing a folder may take; one on another computer may never answer. */
const LIST_MS = 10_000;

/** Which of the files of a run are not there now. Each folder is listed once, however many are in it. */
export async function writtenAway(
  { id }: Pick<RunRow, 'id'>,
  { items, documents }: Pick<Tables, 'items' | 'documents'>,
): Promise<RunAwayView> {
  const outputs = items.outputs(id);
  const made = documents.ofRun(id).flatMap(({ status, output, delivery }) => {
    return status === 'written' && output !== null ? [{ delivery, output }] : [];
  });
  const folders = new Set([...outputs, ...made].map(({ output }) => dirname(output)));
  const names = new Map<string, ReadonlySet<string>>();
  for (const folder of folders) names.set(folder, await namesIn(folder));
  const isAway = ({ output }: { readonly output: string }): boolean =>
    !names.get(dirname(output))?.has(basename(output));
  return {
    outputs: outputs.filter(isAway).map((one) => one.id),
    documents: [...new Set(made.filter(isAway).map(({ delivery }) => delivery))],
  };
}

/** None where it is away or does not answer. */
async function namesIn(folder: string): Promise<ReadonlySet<string>> {
  const names = await withinTime(LIST_MS, folder, () => readdir(folder)).catch(() => []);
  return new Set(names);
}
