import { useThrottleFn } from '@vueuse/core';
import pLimit from 'p-limit';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { ApiError, sentenceOf } from '../api/client.ts';
import { uploadPhoto } from '../api/upload.ts';
import { useBatches } from './batches.ts';

export interface UploadItem {
  readonly name: string;
  readonly bytes: number;
  /** 0 to 1. */
  share: number;
  state: 'waiting' | 'sending' | 'added' | 'refused' | 'cancelled';
  reason: string | null;
}

/** Sending more at once only makes each slower; reading them is the server's work. */
const AT_ONCE = 4;
const REFRESH_MS = 900;

/** Files on their way into a batch; goes on while other views are looked at. */
export const useUploads = defineStore('uploads', () => {
  const batches = useBatches();
  const batchId = ref<number | null>(null);
  const items = ref<UploadItem[]>([]);
  let controller = new AbortController();
  const refreshSoon = useThrottleFn(() => batches.refreshPhotos(), REFRESH_MS);

  const count = (...states: UploadItem['state'][]): number =>
    items.value.filter((item) => states.includes(item.state)).length;
  const done = computed(() => count('added', 'refused', 'cancelled'));
  const added = computed(() => count('added'));
  const refused = computed(() => items.value.filter((item) => item.state === 'refused'));
  const isBusy = computed(() => done.value < items.value.length);
  const share = computed(() => {
    const bytes = items.value.reduce((sum, item) => sum + item.bytes, 0);
    const sent = items.value.reduce((sum, item) => sum + item.bytes * item.share, 0);
    return bytes > 0 ? sent / bytes : 0;
  });

  /** Sends files into a batch; the promise is kept when the last one is in or refused. */
  async function send(id: number, files: readonly File[]): Promise<void> {
    if (!isBusy.value) {
      items.value = [];
      controller = new AbortController();
    }
    batchId.value = id;
    const first = items.value.length;
    items.value.push(
      ...files.map(({ name, size }): UploadItem => ({
        ...{ name, bytes: size, share: 0, reason: null },
        state: 'waiting',
      })),
    );
    const { signal } = controller;
    const limit = pLimit(AT_ONCE);
    await Promise.all(
      files.map((file, index) =>
        limit(() => sendOne(id, file, items.value[first + index], signal)),
      ),
    );
    await batches.refreshPhotos();
  }

  async function sendOne(
    id: number,
    file: File,
    item: UploadItem,
    signal: AbortSignal,
  ): Promise<void> {
    if (signal.aborted) {
      item.state = 'cancelled';
      return;
    }
    item.state = 'sending';
    try {
      await uploadPhoto(id, file, signal, (sent) => (item.share = sent));
      item.state = 'added';
      void refreshSoon();
    } catch (error) {
      item.state =
        error instanceof ApiError && error.code === 'cancelled' ? 'cancelled' : 'refused';
      item.reason = sentenceOf(error);
    }
    item.share = 1;
  }

  function cancel(): void {
    controller.abort();
  }

  function clear(): void {
    if (!isBusy.value) items.value = [];
  }

  return { batchId, items, done, added, refused, isBusy, share, send, cancel, clear };
});
