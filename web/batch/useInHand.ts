import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { isUpright } from '#core/placement/uprightRule';
import { useDraft } from '../preset/draft.ts';

/** Whom the bench speaks to: all photos, those in hand, or those taller than wide. */
export type Scope = 'all' | 'some' | 'upright';

interface WallHands {
  readonly photos: Ref<readonly PhotoView[]>;
  readonly selected: Ref<ReadonlySet<number>>;
  readonly current: Ref<PhotoView | null>;
  /** The current photo is looked at closely. */
  readonly isLooking: Ref<boolean>;
}

/** Whom the bench speaks to, and what is done to the photos in hand: the selected ones, or the one that is looked at. */
export function useInHand({ photos, selected, current, isLooking }: WallHands) {
  const draft = useDraft();
  const scope = ref<Scope>('all');
  const inHand = computed<readonly number[]>(() => {
    if (isLooking.value && current.value) return [current.value.id];
    return [...selected.value];
  });
  watch(
    () => [isLooking.value, selected.value.size > 0] as const,
    () => (scope.value = inHand.value.length > 0 ? 'some' : 'all'),
  );
  watch(
    () => (scope.value === 'some' && inHand.value.length > 0 ? inHand.value : null),
    (ids) => (draft.target = ids),
    { immediate: true },
  );
  /** How many are taller than wide, where there are others as well. */
  const upright = computed(() => {
    const count = photos.value.filter(isUpright).length;
    return count < photos.value.length ? count : 0;
  });
  watch(
    () => scope.value === 'upright' && upright.value > 0,
    (speaks) => (draft.speaksUpright = speaks),
    { immediate: true },
  );
  onBeforeUnmount(() => {
    draft.target = null;
    draft.speaksUpright = false;
  });

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

  return { scope, upright, inHand, told, copySource, leaveOut };
}
