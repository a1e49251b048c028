import { computed, watch, type Ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { PhotoView, RunWish } from '#core/contract/http';
import { inOrder } from '#core/batch/benchMarks';
import { withSuffix } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import { useDraft } from '../preset/draft.ts';
import { useBatches } from './batches.ts';
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
  const batches = useBatches();
  const sync = useAdjustmentSync();
  const route = useRoute();
  const router = useRouter();

  const canExport = computed(
    () => photos.value.length > 0 && draft.baseMark !== null && deliveryIds.value.length > 0,
  );
  const isConfirming = computed(() => route.query.confirm !== undefined && canExport.value);

  /** A confirmation of sheets shows these in place of the wall. */
  const isShowingSheets = computed(
    () =>
      isConfirming.value &&
      wish.value.deliveryIds.some((id) => library.deliveryOf(id)?.rule.kind === 'sheet'),
  );

  /** A photo that goes out alone, from its tile or the closer look; the bench keeps what it has. */
  const alone = computed(() => {
    const id = Number(route.query.photo);
    return photos.value.find((photo) => photo.id === id) ?? null;
  });
  const asked = computed(() =>
    String(route.query.confirm ?? '')
      .split(',')
      .flatMap((id) => library.deliveryOf(Number(id))?.id ?? []),
  );

  // A ticket names the delivery it wants in the address; a confirmation names all it is of.
  watch(
    asked,
    (ids) => {
      if (ids.length > 0 && route.query.photo === undefined) deliveryIds.value = ids;
    },
    { immediate: true },
  );

  /** All marks of the bench, the lowest first: the first is the run's own. */
  const laid = computed(() => {
    const hand = {
      presetId: draft.presetId,
      presetName: draft.isDirty && draft.saved ? withSuffix(draft.name, ', changed') : draft.name,
      ...{ markId: draft.baseMark?.id ?? 0, rule: draft.baseRule },
    };
    const others = draft.others.map(({ presetId, name, mark, rule }) => ({
      ...{ presetId: presetId as number | null, presetName: name, markId: mark?.id ?? 0, rule },
    }));
    return inOrder(hand, others, draft.handAt);
  });

  const going = computed(() =>
    alone.value && asked.value.length > 0 ? asked.value : [...deliveryIds.value],
  );
  /** The wall shows the first that is chosen on the bench, unless the confirmation was told otherwise. */
  const shownDeliveryId = computed(() => {
    if (route.query.lay === 'own') return null;
    return route.query.lay === 'wall' ? going.value[0] : deliveryIds.value[0];
  });

  const wish = computed<RunWish>(() => ({
    ...{ batchId: batchId(), deliveryIds: going.value, shownDeliveryId: shownDeliveryId.value },
    ...laid.value[0],
    over: laid.value
      .slice(1)
      .flatMap(({ presetId, ...mark }) => (presetId === null ? [] : [{ presetId, ...mark }])),
    photoIds: alone.value ? [alone.value.id] : selectedIds(),
    order: batches.wallOrder && [...batches.wallOrder],
  }));

  const selectedIds = (): number[] | null => (selected.value.size > 0 ? [...selected.value] : null);

  /** @param photoId of one that goes out alone; else what is selected, or all */
  async function goToExport(photoId: number | null = null): Promise<void> {
    // What was adjusted a moment ago belongs to the run.
    if (!canExport.value || !(await sync.flush())) return;
    if (photoId === null) void router.push({ query: { confirm: deliveryIds.value.join() } });
    else {
      const query = { confirm: String(deliveryIds.value[0]), photo: String(photoId) };
      void router.push({ query });
    }
  }

  /** Another delivery for the photo that goes out alone. */
  function deliverBy(id: number): void {
    void router.replace({ query: { ...route.query, confirm: String(id), lay: undefined } });
  }

  /** Marks of the delivery that comes first: its own, or the wall's. */
  function lay(what: 'own' | 'wall'): void {
    void router.replace({ query: { ...route.query, lay: what } });
  }

  function leaveConfirm(): void {
    void router.replace({ query: {} });
  }

  return {
    ...{ canExport, isConfirming, isShowingSheets, alone, wish },
    ...{ goToExport, deliverBy, lay, leaveConfirm },
  };
}
