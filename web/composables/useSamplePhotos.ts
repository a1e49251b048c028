import { onMounted, ref, type Ref } from 'vue';
import type { BatchView, PhotoView } from '#core/contract/http';
import { api } from '../api/client.ts';

const MOST = 5;

/**
 * Photos of the batch worked on last, as different in shape as it has them: the widest, the tallest,
 * the squarest, and others spread over the shoot.
 */
export function useSamplePhotos(): { photos: Ref<PhotoView[]>; isLoaded: Ref<boolean> } {
  const photos = ref<PhotoView[]>([]);
  const isLoaded = ref(false);

  onMounted(async () => {
    try {
      const batches = await api.get<BatchView[]>('/batches');
      const batch = batches.find((some) => some.photoCount > 0);
      if (batch) {
        const answer = await api.get<{ photos: PhotoView[] }>(`/batches/${batch.id}`);
        photos.value = sample(answer.photos);
      }
    } finally {
      isLoaded.value = true;
    }
  });

  return { photos, isLoaded };
}

export function sample(all: readonly PhotoView[]): PhotoView[] {
  if (all.length <= MOST) return [...all];
  const aspect = (photo: PhotoView): number => photo.width / photo.height;
  const byAspect = [...all].sort((a, b) => aspect(b) - aspect(a));
  const squareness = (photo: PhotoView): number => Math.abs(Math.log(aspect(photo)));
  const squarest = [...all].sort((a, b) => squareness(a) - squareness(b))[0];
  const chosen = new Set([byAspect[0], byAspect[byAspect.length - 1], squarest]);
  // Two more from the third and two thirds of the shoot, or the next ones that are free.
  for (const share of [1 / 3, 2 / 3]) {
    const from = Math.floor(all.length * share);
    const next = [...all.slice(from), ...all].find((photo) => !chosen.has(photo));
    if (next) chosen.add(next);
  }
  return [...chosen];
}
