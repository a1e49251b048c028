import { defineStore } from 'pinia';
import { computed } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { photoWords } from '#core/lettering/photoWords';
import type { PhotoWords } from '#core/lettering/words';
import { useDraft } from '../preset/draft.ts';
import { useBatches } from './batches.ts';

/** What marks can say of the photos of the open batch. */
export const usePhotoWords = defineStore('photoWords', () => {
  const draft = useDraft();
  const batches = useBatches();

  /** As they are counted when all of them are exported, in the order of the wall. */
  const numbers = computed(() => {
    let number = 0;
    const found = new Map<number, number>();
    for (const id of batches.wallOrder ?? batches.photos.map((photo) => photo.id)) {
      if (!draft.adjustments.get(id)?.leftOut) found.set(id, ++number);
    }
    return found;
  });

  function numberOf(photoId: number): number {
    return numbers.value.get(photoId) ?? 1;
  }

  function of(photo: PhotoView): PhotoWords {
    return photoWords(photo, { number: numberOf(photo.id), batch: batches.open?.name ?? '' });
  }

  return { of, numberOf };
});
