import { computed, watch, type Ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { PhotoView, RunWish } from '#core/contract/http';
import { withSuffix } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import { useDraft } from '../preset/draft.ts';
import { useAdjustmentSync } from './adjustmentSync.ts';

/** The export of an open batch: what it would be, and its confirmation, which has an address. */
export function useExport(
  batchId: () => number,
  {
    photos,
    selected,
    deliveryIds,
  }: {
    readonly photos: Ref<readonly PhotoView[]>;
    readonly selected: Ref<ReadonlySet<number>>;
    readonly deliveryIds: Ref<readonly number[]>;
  },
) {
  const draft = useDraft();
  const library = useLibrary();
  const sync = useAdjustmentSync();
  const route = useRoute();
  const router = useRouter();

  const canExport = computed(
    () => photos.value.length > 0 && draft.baseMark !== null && deliveryIds.value.length > 0,
  );
  const isConfirming = computed(() => route.query.confirm !== undefined && canExport.value);

  // A ticket names the delivery it wants in the address; a confirmation names all it is of.
  watch(
    () => route.query.confirm,
    (wanted) => {
      const ids = String(wanted ?? '')
        .split(',')
        .flatMap((id) => library.deliveryOf(Number(id))?.id ?? []);
      if (ids.length > 0) deliveryIds.value = ids;
    },
    { immediate: true },
  );

  const wish = computed<RunWish>(() => ({
    batchId: batchId(),
    deliveryIds: [...deliveryIds.value],
    presetName: draft.isDirty && draft.saved ? withSuffix(draft.name, ', changed') : draft.name,
    presetId: draft.presetId,
    markId: draft.baseMark?.id ?? 0,
    rule: draft.baseRule,
    photoIds: selected.value.size > 0 ? [...selected.value] : null,
  }));

  async function goToExport(): Promise<void> {
    // What was adjusted a moment ago belongs to the run.
    if (canExport.value && (await sync.flush()))
      void router.push({ query: { confirm: deliveryIds.value.join() } });
  }

  function leaveConfirm(): void {
    void router.replace({ query: {} });
  }

  return { canExport, isConfirming, wish, goToExport, leaveConfirm };
}
