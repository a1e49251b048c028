import { setTimeout as delay } from 'node:timers/promises';
import type { RunView } from '#core/contract/http';
import type { Logger } from 'pino';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { Tables } from '../db/tables.ts';
import type { ItemEnd } from './exportParts.ts';

/** The database could not be written: it is tried again after this, for as long as it takes. */
export const TRY_AGAIN_MS = 1_000;

/** The run of an item that has ended. */
interface RunOfItem {
  readonly state: () => RunView['state'] | null;
  readonly hold: (problem: string) => void;
}

export function noteEnd(
  item: RunItemRow,
  end: ItemEnd,
  isAborted: boolean,
  { items }: Tables,
  run: RunOfItem,
): void {
  if (end.kind === 'held') {
    items.requeue(item.id);
    const state = run.state();
    if (state === 'running') run.hold(end.problem);
    if (state === 'cancelled') items.cancelWaiting(item.runId);
    return;
  }
  const isGivenUp = isAborted && end.status === 'failed';
  const status = isGivenUp ? 'cancelled' : end.status;
  items.finish(item.id, status, end.output, isGivenUp ? null : end.error, end.note);
}

/** Until the database takes it: a full disk must not leave an item between two states. */
export async function persisted(
  write: () => Promise<void>,
  isGivenUp: () => boolean,
  log: Logger,
): Promise<void> {
  while (!isGivenUp()) {
    try {
      await write();
      return;
    } catch (error) {
      log.error({ err: error }, 'an end could not be noted yet');
      await delay(TRY_AGAIN_MS, undefined, { ref: false });
    }
  }
}
