import { onMounted, ref, shallowRef } from 'vue';
import type { BatchView, PhotoView, SamplesView } from '#core/contract/http';
import { api } from '../api/client.ts';

/** All photos of the batch worked on last. */
export function useLastBatch() {
  const all = shallowRef<readonly PhotoView[]>([]);
  const batch = ref<BatchView | null>(null);
  const isLoaded = ref(false);

  onMounted(async () => {
    try {
      batch.value = (await api.get<SamplesView>('/samples')).batch;
      if (!batch.value) return;
      all.value = (await api.get<{ photos: PhotoView[] }>(`/batches/${batch.value.id}`)).photos;
    } finally {
      isLoaded.value = true;
    }
  });

  return { all, batch, isLoaded };
}
