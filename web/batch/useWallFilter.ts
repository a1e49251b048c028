import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { adjustedParts } from '#core/placement/adjustment';
import type { ReadabilityClass } from '#core/readability/measure';
import { isSameValue } from '#core/sameValue';
import { useDraft } from '../preset/draft.ts';
import { useBatches } from './batches.ts';
import { useReadings } from '../readability/readings.ts';
import { useWallTroubles, type Trouble, type TroubleKind } from './useWallTroubles.ts';

/** Which photos of a batch the wall shows, and in which order. */

export type WallShow = 'all' | ReadabilityClass | 'adjusted' | 'left out' | TroubleKind;
export const WALL_SORTS = ['by time', 'by name', 'by shape', 'worst first'] as const;
export type WallSort = (typeof WALL_SORTS)[number];

export interface WallSigns {
  readonly adjusted: number;
  readonly leftOut: number;
  readonly troubles: readonly Trouble[];
}

interface Known {
  readonly share: number;
  readonly class: ReadabilityClass | null;
}

/** As people count: 2 before 10. */
const NAMES = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const byName = (a: PhotoView, b: PhotoView): number => NAMES.compare(a.name, b.name);

export function useWallFilter(photos: Ref<readonly PhotoView[]>): {
  show: Ref<WallShow>;
  sort: Ref<WallSort>;
  /** Words that the names of the photos have to hold. */
  find: Ref<string>;
  shown: ComputedRef<readonly PhotoView[]>;
  /** How many photos have what can be filtered by. */
  signs: ComputedRef<WallSigns>;
} {
  const draft = useDraft();
  const batches = useBatches();
  const readings = useReadings();
  const show = ref<WallShow>('all');
  const sort = ref<WallSort>('by time');
  const find = ref('');
  /** By photo, as known when the hand last rested: no tile leaves from under a drag. */
  const known = shallowRef<ReadonlyMap<number, Known>>(new Map());

  watch(
    () => [readings.rested, show.value, sort.value, photos.value] as const,
    () => {
      known.value = new Map(
        readings.photos.map(({ id }, index) => [
          id,
          { share: readings.shares[index] ?? NaN, class: readings.classes[index] ?? null },
        ]),
      );
    },
    { immediate: true },
  );

  const troubles = useWallTroubles(photos);
  const isTroubled = (id: number, kind: TroubleKind): boolean =>
    troubles.value.find((trouble) => trouble.kind === kind)?.ids.has(id) ?? false;

  const parts = (id: number) => adjustedParts(draft.adjustments.get(id));
  const isLeftOut = (id: number): boolean => draft.adjustments.get(id)?.leftOut === true;
  const isAdjusted = (id: number): boolean => parts(id).some((part) => part !== 'left out');

  function isShown({ id }: PhotoView): boolean {
    switch (show.value) {
      case 'all':
        return true;
      case 'adjusted':
        return isAdjusted(id);
      case 'left out':
        return isLeftOut(id);
      case 'busiest':
      case 'touching':
      case 'wordless':
      case 'letterless':
        return isTroubled(id, show.value) && !isLeftOut(id);
      default:
        return known.value.get(id)?.class === show.value && !isLeftOut(id);
    }
  }

  const shown = computed(() => {
    const words = find.value.toLowerCase().split(/\s+/).filter(Boolean);
    const isFound = ({ name }: PhotoView): boolean =>
      words.every((word) => name.toLowerCase().includes(word));
    const all = words.length === 0 ? photos.value : photos.value.filter(isFound);
    return sorted(show.value === 'all' ? all : all.filter(isShown));
  });
  function sorted(some: readonly PhotoView[]): readonly PhotoView[] {
    if (sort.value === 'by time') return some;
    if (sort.value === 'by name') return [...some].sort(byName);
    const key =
      sort.value === 'by shape'
        ? (photo: PhotoView): number => photo.width / photo.height
        : (photo: PhotoView): number => known.value.get(photo.id)?.share ?? 2;
    return [...some].sort((a, b) => key(a) - key(b));
  }
  // All of them, whatever is shown: exports and numbers go by it.
  watch(
    () => (sort.value === 'by time' ? null : sorted(photos.value).map(({ id }) => id)),
    (order) => {
      if (!isSameValue(order, batches.wallOrder)) batches.wallOrder = order;
    },
    { immediate: true },
  );
  const counted = (is: (id: number) => boolean): number =>
    [...draft.adjustments.keys()].filter(
      (id) => is(id) && photos.value.some((photo) => photo.id === id),
    ).length;

  return {
    ...{ show, sort, find, shown },
    signs: computed(() => ({
      adjusted: counted(isAdjusted),
      leftOut: counted(isLeftOut),
      troubles: troubles.value,
    })),
  };
}
