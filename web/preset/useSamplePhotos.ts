import { defineStore, storeToRefs } from 'pinia';
import { onMounted, shallowRef } from 'vue';
import type { PhotoView, SamplesView } from '#core/contract/http';
import { api } from '../api/client.ts';

/** Kept from view to view, so that what stands on photos is there at once when it is come back to. */
const useSamples = defineStore('samples', () => {
  const photos = shallowRef<readonly PhotoView[]>([]);
  const isLoaded = shallowRef(false);

  async function load(): Promise<void> {
    try {
      const { photos: now } = await api.get<SamplesView>('/samples');
      if (!areSame(now, photos.value)) photos.value = now;
    } finally {
      isLoaded.value = true;
    }
  }

  return { photos, isLoaded, load };
});

/** Photos of the batch worked on last, as different as it has them. */
export function useSamplePhotos() {
  const samples = useSamples();
  // Without them a view stands on plain ground.
  onMounted(() => samples.load().catch(() => undefined));
  return storeToRefs(samples);
}

function areSame(some: readonly PhotoView[], others: readonly PhotoView[]): boolean {
  const key = ({ id, version }: PhotoView): string => `${id}.${version}`;
  return some.map(key).join() === others.map(key).join();
}
