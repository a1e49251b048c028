import type { RunCounts, RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { foldersOf } from './runNames.ts';
import { removeLeftByWorkers, removeTemporaries } from './runTemporaries.ts';

/**
 * Ends a run of which every output has ended.
 *
 * @param clearUp takes away what the run needs no more
 * @returns whether it is ended
 */
export async function finishedRun(
  runId: number,
  { runs }: Tables,
  isAtWork: () => boolean,
  clearUp: (run: RunRow) => Promise<void>,
): Promise<boolean> {
  const run = runs.get(runId);
  if (!run || !isThrough(runs.counts(runId)) || isAtWork()) return false;
  // Processes that outlived an earlier server may have left something since it was cleared up.
  for (const folder of foldersOf(run)) {
    await removeTemporaries(run, folder, new Set()).catch(() => undefined);
    await removeLeftByWorkers(run, folder).catch(() => undefined);
  }
  await clearUp(run);
  // It may have been taken up again meanwhile.
  if (!isThrough(runs.counts(runId))) return false;
  const state = runs.get(runId)?.state;
  if (state === 'running' || state === 'paused') runs.setState(runId, 'done');
  return true;
}

/** Whether every output has ended. */
export function isThrough({ total, written, skipped, failed, cancelled }: RunCounts): boolean {
  return written + skipped + failed + cancelled >= total;
}
