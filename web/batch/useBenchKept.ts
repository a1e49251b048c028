import { watch, type Ref } from 'vue';
import type { BatchChangeWish, BatchView } from '#core/contract/http';
import { isSameValue } from '#core/sameValue';
import { useSaving } from '../app/saving.ts';
import { useDraft } from '../preset/draft.ts';
import { NEW_PRESET, useUnsavedPresets } from '../preset/unsavedPresets.ts';
import { useBatches } from './batches.ts';

/** A drag changes the placement with every frame; it is sent when the hand rests. */
const REST_MS = 400;

export type Bench = Required<
  Pick<BatchChangeWish, 'presetId' | 'placing' | 'deliveryIds' | 'beside'>
>;

const keyOf = (batchId: number): string => `bench of batch ${batchId}`;

/** What the bench of a batch held when it was left, as long as the server was not told of it. */
export function untoldBench(batchId: number): Bench | null {
  return useSaving().valueOf<Bench>(keyOf(batchId));
}

/**
 * The open batch keeps what is on its bench: preset, placement where that is not saved, deliveries. It is
 * there again when the batch is opened the next time, in any window.
 */
export function useBenchKept(batchId: () => number, deliveryIds: Ref<readonly number[]>) {
  const batches = useBatches();
  const draft = useDraft();
  const saving = useSaving();
  const unsaved = useUnsavedPresets();
  const ofDraft = (): Bench => ({
    presetId: draft.presetId,
    placing: draft.placing,
    deliveryIds: [...deliveryIds.value],
    beside: draft.beside,
  });

  watch(
    () => ({ open: batches.open, benchOf: draft.batchId, bench: ofDraft() }),
    ({ open, benchOf, bench }, before) => {
      const id = batchId();
      if (open?.id !== id || benchOf !== id) return;
      const known = saving.valueOf<Bench>(keyOf(id)) ?? open;
      if (isSame(bench, known)) return;
      const wasOpen = before.open?.id === id && before.benchOf === id;
      if (wasOpen && isSame(bench, before.bench)) follow(open);
      else keep(id, bench);
    },
  );

  function keep(id: number, bench: Bench): void {
    saving.put<Bench>({
      ...{ key: keyOf(id), value: bench, restMs: REST_MS },
      send: async (now, { keepalive }) => {
        await batches.change(id, now, { keepalive: keepalive ?? false });
        if (now.placing) unsaved.noteKept(now.presetId ?? NEW_PRESET, id);
      },
    });
  }

  /** Another window changed it, and this one did not. */
  function follow(batch: BatchView): void {
    if (batch.deliveryIds.length > 0) deliveryIds.value = batch.deliveryIds;
    draft.follow(batch.presetId, batch.placing, batch.beside);
  }
}

function isSame(bench: Bench, other: Bench | BatchView | null): boolean {
  if (!other) return false;
  const { presetId, placing, deliveryIds, beside } = other;
  return isSameValue(bench, { presetId, placing, deliveryIds, beside });
}
