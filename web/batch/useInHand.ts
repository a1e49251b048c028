import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useDraft } from '../preset/draft.ts';

interface WallHands {
  readonly photos: Ref<readonly PhotoView[]>;
  readonly selected: Ref<ReadonlySet<number>>;
  readonly current: Ref<PhotoView | null>;
  /** The current photo is looked at closely. */
  readonly isLooking: Ref<boolean>;
}

/** Whom the bench speaks to: all photos, or those that are selected or looked at closely. */
export function useInHand({ photos, selected, current, isLooking }: WallHands) {
  const draft = useDraft();
  const speaksToAll = ref(false);
  const inHand = computed<readonly number[]>(() => {
    if (isLooking.value && current.value) return [current.value.id];
    return [...selected.value];
  });
  watch(
    () => [isLooking.value, selected.value.size > 0] as const,
    () => (speaksToAll.value = false),
  );
  watch(
    () => (speaksToAll.value || inHand.value.length === 0 ? null : inHand.value),
    (ids) => (draft.target = ids),
    { immediate: true },
  );
  onBeforeUnmount(() => (draft.target = null));

  /** Photos whose adjustment is told and can be taken back. */
  const told = computed(() => {
    const ids = new Set(inHand.value.length > 0 ? inHand.value : [current.value?.id]);
    return photos.value.filter(({ id }) => ids.has(id));
  });

  /** The photo that the keys speak to can give what it has to the selected ones. */
  const copySource = computed(() => {
    const photo = current.value;
    const isBeside = photo && inHand.value.length > 0 && !inHand.value.includes(photo.id);
    return isBeside && draft.adjustments.has(photo.id) ? photo : null;
  });

  /** Takes the photos in hand out of exports, or in again where all of them are out. */
  function leaveOut(): void {
    const ids = told.value.map(({ id }) => id);
    if (ids.length === 0) return;
    if (ids.every((id) => draft.adjustments.get(id)?.leftOut)) draft.takeBack(ids, 'left out');
    else draft.adjust(ids, { leftOut: true });
  }

  return { speaksToAll, inHand, told, copySource, leaveOut };
}
