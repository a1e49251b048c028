import { computed, onBeforeUnmount, ref } from 'vue';
import { useResource } from '../api/useResource.ts';
import { useLibrary } from '../app/library.ts';
import { useDraft } from '../preset/draft.ts';
import { useReadings } from '../readability/readings.ts';
import { useAdjustmentSync } from './adjustmentSync.ts';
import { useBatches } from './batches.ts';
import { untoldBench, useBenchKept } from './useBenchKept.ts';

/** The batch of a view: opened with its bench as it was left, left with everything sent. */
export function useOpenBatch(batchId: () => number) {
  const batches = useBatches();
  const draft = useDraft();
  const library = useLibrary();
  const readings = useReadings();
  const sync = useAdjustmentSync();
  const isLoading = ref(true);
  const chosen = ref<readonly number[]>([]);
  /** Without those that were deleted since, here or in another window. */
  const deliveryIds = computed({
    get: () => chosen.value.filter((id) => library.deliveryOf(id)),
    set: (ids) => (chosen.value = ids),
  });
  let isLeft = false;

  const { problem, load } = useResource(async () => {
    const opened = await batches.openBatch(batchId());
    // Left while it was being opened: what comes late changes nothing.
    if (isLeft) return;
    const untold = untoldBench(batchId());
    const batch = untold ? { ...opened, beside: untold.beside } : opened;
    // A batch whose bench was never used begins with the first preset.
    const first = batch.placing ? null : (library.presets[0]?.id ?? null);
    draft.open(library.presetOf(batch.presetId)?.id ?? first, batch);
    const there = batch.deliveryIds.filter((id) => library.deliveryOf(id));
    const begun = library.deliveries.slice(0, 1).map(({ id }) => id);
    deliveryIds.value = there.length > 0 ? there : begun;
    isLoading.value = false;
  });
  onBeforeUnmount(() => {
    isLeft = true;
    readings.follow([], null);
    void sync.leave();
  });

  useBenchKept(batchId, deliveryIds);
  function choosePreset(id: number | null): void {
    draft.open(id, { id: batchId() });
  }

  return { problem, isLoading, deliveryIds, load, choosePreset };
}
