import { photoAddress } from '../api/photoAddress.ts';
import { computed, type ComputedRef } from 'vue';
import { useSamplePhotos } from '../preset/useSamplePhotos.ts';

/** Address of a photo to look at a mark on: the darkest of the last batch's samples, or null. */
export function usePhotoGround(): ComputedRef<string | null> {
  const { photos } = useSamplePhotos();
  return computed(() => {
    const wide = photos.value.filter((photo) => photo.width >= photo.height);
    const chosen = [...wide].sort((a, b) => a.lightness - b.lightness)[0] ?? photos.value[0];
    return chosen ? photoAddress(chosen, 'proxy') : null;
  });
}
