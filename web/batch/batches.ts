import { useThrottleFn } from '@vueuse/core';
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
import { api, TAB, type CallOptions } from '../api/client.ts';
import { onReconnect, onServerEvent } from '../api/events.ts';
import { useAdjustmentSync } from './adjustmentSync.ts';

const REFRESH_MS = 1_000;
/** Of the time that an answer took: a batch of many thousands is not asked for all the time. */
const REST = 4;
const MOST_REST_MS = 10_000;

interface OpenBatchAnswer {
  readonly batch: BatchView;
  readonly photos: PhotoView[];
  readonly adjustments: readonly { readonly photoId: number; readonly adjustment: Adjustment }[];
  readonly reading: ImportView | null;
  /** The last folder that was read, where some of it was refused. */
  readonly lastReading: ImportView | null;
}

/** All batches by name, and the photos of the one that is open. */
export const useBatches = defineStore('batches', () => {
  const batches = ref<BatchView[]>([]);
  const isLoaded = ref(false);
  const open = ref<BatchView | null>(null);
  /** Thousands of photos that never change: not made reactive one by one. */
  const photos = shallowRef<readonly PhotoView[]>([]);
  /** The open batch's photos as its wall is sorted; null: as the batch has them. */
  const wallOrder = shallowRef<readonly number[] | null>(null);
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
    isOutdated = false;
    wanted = id;
    useAdjustmentSync().begin(id);
    const answer = await api.get<OpenBatchAnswer>(`/batches/${id}`);
    // Another was opened while this one was on its way: its view is not there any more.
    if (wanted !== id) return answer.batch;
    open.value = answer.batch;
    photos.value = answer.photos;
    useAdjustmentSync().take(id, answer.adjustments);
    reading.value = answer.reading ?? answer.lastReading;
    // What was told while the answer was on its way is newer than it.
    if (isMissed(id)) takeProgress(missed);
    if (isOutdated) refreshSoon();
    api.post(`/batches/${id}/opened`).catch(() => undefined);
    return answer.batch;
  }

  function listen(): void {
    if (isListening) return;
    isListening = true;
    onServerEvent('import', (progress) => {
      if (progress.batchId === open.value?.id) takeProgress(progress);
      else missed = progress;
    });
    onServerEvent('photos', ({ batchId }) => {
      follow(batchId);
    });
    onServerEvent('changed', ({ what, id, tab }) => {
      if (what !== 'batches' || tab === TAB) return;
      follow(id);
      if (isLoaded.value) load().catch(() => undefined);
    });
    onReconnect(() => follow(wanted));
  }

  /** The batch that is being opened or is open; answers for another come too late. */
  let wanted: number | null = null;

  /** The batch that is being opened has changed since it was asked for. */
  let isOutdated = false;
  function follow(id: number | null): void {
    if (id === open.value?.id) refreshSoon();
    else if (id === wanted) isOutdated = true;
  }

  /** Told of a batch that was not open yet. */
  let missed: ImportView | null = null;
  const isMissed = (id: number): boolean => missed?.batchId === id;

  function takeProgress(progress: ImportView | null): void {
    reading.value = progress;
    if (progress?.state === 'reading') void refreshNowAndThen();
    else refreshSoon();
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
        const askedMs = performance.now();
        const answer = await api.get<OpenBatchAnswer>(`/batches/${id}`);
        if (open.value?.id === id) takeAnswer(answer);
        const tookMs = performance.now() - askedMs;
        const restMs = Math.min(MOST_REST_MS, REST * tookMs);
        if (refreshAgain) await new Promise((done) => setTimeout(done, restMs));
      } while (refreshAgain);
    } finally {
      refreshing = false;
    }
  }

  function refreshSoon(): void {
    refreshPhotos().catch(() => undefined);
  }
  /** While thousands come in, the wall follows once a second; each time it asks for all of them. */
  const refreshNowAndThen = useThrottleFn(refreshSoon, REFRESH_MS, true);

  function takeAnswer({ batch, photos: all, adjustments, reading: now }: OpenBatchAnswer): void {
    open.value = batch;
    photos.value = all;
    useAdjustmentSync().follow(batch.id, adjustments);
    // An end that was told stays to be read; one that was missed is taken from here.
    if (now || reading.value?.state === 'reading') reading.value = now;
  }

  async function create(wish: BatchWish): Promise<BatchView> {
    const batch = await api.post<BatchView>('/batches', wish);
    batches.value.unshift(batch);
    return batch;
  }

  async function change(
    id: number,
    wish: BatchChangeWish,
    options: CallOptions = {},
  ): Promise<void> {
    const batch = await api.patch<BatchView>(`/batches/${id}`, wish, options);
    if (open.value?.id === id) open.value = batch;
    batches.value = batches.value.map((some) => (some.id === id ? batch : some));
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

  /** Goes on with a folder that is paused, or reads once more what was refused. */
  async function resumeReading(id: number): Promise<void> {
    reading.value = await api.post<ImportView | null>(`/batches/${id}/folders/resume`);
  }

  return {
    ...{ batches, isLoaded, open, photos, wallOrder, reading, load, openBatch, refreshPhotos },
    ...{ create, change, removePhotos, readFolder, cancelReading, resumeReading },
  };
});
