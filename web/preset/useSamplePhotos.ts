import { onMounted, ref, shallowRef, type Ref } from 'vue';
import type { BatchView, PhotoView } from '#core/contract/http';
import { api } from '../api/client.ts';

const MOST = 5;

/**
 * Photos of the batch worked on last, as different as it has them: the widest, the tallest, the
 * darkest, the brightest and the squarest.
 */
export function useSamplePhotos(): {
  photos: Ref<PhotoView[]>;
  all: Ref<readonly PhotoView[]>;
  /** The batch they are of. */
  batch: Ref<BatchView | null>;
  isLoaded: Ref<boolean>;
} {
  const photos = ref<PhotoView[]>([]);
  const all = shallowRef<readonly PhotoView[]>([]);
  const batch = ref<BatchView | null>(null);
  const isLoaded = ref(false);

  onMounted(async () => {
    try {
      const batches = await api.get<BatchView[]>('/batches');
      const last = batches.find((some) => some.photoCount > 0);
      if (last) {
        batch.value = last;
        const answer = await api.get<{ photos: PhotoView[] }>(`/batches/${last.id}`);
        all.value = answer.photos;
        photos.value = sample(answer.photos);
      }
    } finally {
      isLoaded.value = true;
    }
  });

  return { photos, all, batch, isLoaded };
}

export function sample(all: readonly PhotoView[]): PhotoView[] {
  if (all.length <= MOST) return [...all];
  const aspect = (photo: PhotoView): number => photo.width / photo.height;
  const squareness = (photo: PhotoView): number => -Math.abs(Math.log(aspect(photo)));
  const wishes: readonly ((photo: PhotoView) => number)[] = [
    aspect,
    (photo) => -aspect(photo),
    (photo) => -photo.lightness,
    (photo) => photo.lightness,
    squareness,
  ];
  const chosen = new Set<PhotoView>();
  for (const wish of wishes) {
    const free = all.filter((photo) => !chosen.has(photo));
    chosen.add(free.reduce((best, photo) => (wish(photo) > wish(best) ? photo : best)));
  }
  return [...chosen];
}
