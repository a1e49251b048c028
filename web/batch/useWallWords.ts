import { computed, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useBatches } from './batches.ts';
import { useUploads } from './uploads.ts';
import type { useWallFilter, WallShow } from './useWallFilter.ts';
import { NO_TROUBLE, type TroubleKind } from './useWallTroubles.ts';

interface Wall extends Pick<ReturnType<typeof useWallFilter>, 'show' | 'find'> {
  readonly batchId: () => number;
  readonly photos: Ref<readonly PhotoView[]>;
  readonly isLoading: Ref<boolean>;
}

function noneOf(show: WallShow): string {
  return isTrouble(show) ? NO_TROUBLE[show] : `No photo is ${show}`;
}

function isTrouble(show: WallShow): show is TroubleKind {
  return show in NO_TROUBLE;
}

/** What the wall says where it has no photos to show. */
export function useWallWords({ batchId, photos, isLoading, show, find }: Wall) {
  const batches = useBatches();
  const uploads = useUploads();

  const isComingIn = computed(
    () => (uploads.isBusy && uploads.batchId === batchId()) || batches.reading?.state === 'reading',
  );
  const waitsFor = computed(() => {
    if (batches.reading?.state === 'paused') return 'The photos of this folder wait to be read';
    if (isComingIn.value) return 'The first photos are coming in';
    return isLoading.value ? 'Opening' : null;
  });
  /** None where the batch is empty. */
  const emptyTitle = computed(() => {
    if (photos.value.length === 0) return null;
    return find.value ? 'No photo is called that' : noneOf(show.value);
  });

  function showAll(): void {
    show.value = 'all';
    find.value = '';
  }

  return { isComingIn, waitsFor, emptyTitle, showAll };
}
