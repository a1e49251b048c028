import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type {
  BatchChangeWish,
  BatchView,
  BatchWish,
  ImportView,
  PhotoView,
} from '#core/contract/http';
import { api } from '../api/client.ts';
import { onServerEvent } from '../api/events.ts';
import { useKeeping } from './keeping.ts';
import { useLibrary } from './library.ts';

interface OpenBatchAnswer {
  readonly batch: BatchView;
  readonly photos: PhotoView[];
  readonly adjustments: readonly { readonly photoId: number; readonly adjustment: Adjustment }[];
  readonly reading: ImportView | null;
}

/** All batches by name, and the photos of the one that is open. */
export const useBatches = defineStore('batches', () => {
  const batches = ref<BatchView[]>([]);
  const isLoaded = ref(false);
  const open = ref<BatchView | null>(null);
  /** Thousands of photos that never change: not made reactive one by one. */
  const photos = shallowRef<readonly PhotoView[]>([]);
  const reading = ref<ImportView | null>(null);
  let isListening = false;

  async function load(): Promise<void> {
    batches.value = await api.get<BatchView[]>('/batches');
    isLoaded.value = true;
  }

  async function openBatch(id: number): Promise<BatchView> {
    listen();
    if (open.value?.id !== id) {
      open.value = null;
      photos.value = [];
      reading.value = null;
    }
    missed = null;
    const answer = await api.get<OpenBatchAnswer>(`/batches/${id}`);
    open.value = answer.batch;
    photos.value = answer.photos;
    useKeeping().take(id, answer.adjustments);
    reading.value = answer.reading;
    // What was told while the answer was on its way is newer than it.
    if (isMissed(id)) takeProgress(missed);
    void api.post(`/batches/${id}/opened`);
    void knowYears();
    return answer.batch;
  }

  function listen(): void {
    if (isListening) return;
    isListening = true;
    onServerEvent('import', (progress) => {
      if (progress.batchId === open.value?.id) takeProgress(progress);
      else missed = progress;
    });
  }

  /** Told of a batch that was not open yet. */
  let missed: ImportView | null = null;
  const isMissed = (id: number): boolean => missed?.batchId === id;

  function takeProgress(progress: ImportView | null): void {
    reading.value = progress;
    void refreshPhotos();
  }

  let refreshing = false;
  let refreshAgain = false;
  /** Photos come in many times a second; one request at a time keeps up. */
  async function refreshPhotos(): Promise<void> {
    if (refreshing) {
      refreshAgain = true;
      return;
    }
    refreshing = true;
    try {
      do {
        refreshAgain = false;
        const id = open.value?.id;
        if (id === undefined) return;
        const answer = await api.get<OpenBatchAnswer>(`/batches/${id}`);
        if (open.value?.id === id) photos.value = answer.photos;
        await knowYears();
      } while (refreshAgain);
    } finally {
      refreshing = false;
    }
  }

  /** A mark that writes the year has a shape for each; photos of another year may have come in. */
  async function knowYears(): Promise<void> {
    const library = useLibrary();
    const isKnown = (year: number): boolean =>
      library.marks.every(({ years }) => years === null || year in years);
    if (!photos.value.every(({ year }) => isKnown(year))) await library.refreshMarks();
  }

  async function create(wish: BatchWish): Promise<BatchView> {
    const batch = await api.post<BatchView>('/batches', wish);
    batches.value.unshift(batch);
    return batch;
  }

  async function change(id: number, wish: BatchChangeWish): Promise<void> {
    const batch = await api.patch<BatchView>(`/batches/${id}`, wish);
    if (open.value?.id === id) open.value = batch;
    batches.value = batches.value.map((some) => (some.id === id ? batch : some));
  }

  async function remove(id: number): Promise<void> {
    await api.delete(`/batches/${id}`);
    batches.value = batches.value.filter((batch) => batch.id !== id);
    if (open.value?.id === id) open.value = null;
  }

  async function removePhotos(ids: readonly number[]): Promise<void> {
    if (!open.value) return;
    await api.post(`/batches/${open.value.id}/photos/remove`, { ids });
    const gone = new Set(ids);
    photos.value = photos.value.filter((photo) => !gone.has(photo.id));
  }

  async function readFolder(id: number, path: string): Promise<void> {
    reading.value = await api.post<ImportView>(`/batches/${id}/folders`, { path });
  }

  const cancelReading = (id: number): Promise<undefined> => api.delete(`/batches/${id}/folders`);

  return {
    ...{ batches, isLoaded, open, photos, reading, load, openBatch, refreshPhotos },
    ...{ create, change, remove, removePhotos, readFolder, cancelReading },
  };
});
