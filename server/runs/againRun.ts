import { without } from '#core/without';
import type { RunWish } from '#core/contract/http';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';

/** Photos of a run's batch that the run did not have, in the order of the batch. */
export function addedSince({ id, batchId }: RunRow, { batches, items }: Tables): number[] {
  if (batchId === null || !batches.get(batchId)) return [];
  return items.photosWithout(id, batchId);
}

/** The same once more, of the photos that were added since; null where there is nothing to export so. */
export function againWish(run: RunRow, tables: Tables): RunWish | null {
  const photoIds = addedSince(run, tables);
  const deliveryIds = run.deliveries.flatMap(({ deliveryId }) =>
    deliveryId !== null && tables.deliveries.get(deliveryId) ? [deliveryId] : [],
  );
  if (run.batchId === null || photoIds.length === 0 || deliveryIds.length === 0) return null;
  const { batchId, presetName, presetId, markId, rule } = run;
  const over = run.over.map((mark) => without(mark, 'markVersion'));
  const layingOwn = tables.items.deliveriesWithOwn(run.id);
  const shown = run.deliveries.find((_, at) => !layingOwn.has(at + 1));
  return {
    ...{ batchId, deliveryIds, presetName, presetId, markId, rule, over, photoIds, order: null },
    shownDeliveryId: shown?.deliveryId ?? null,
  };
}
