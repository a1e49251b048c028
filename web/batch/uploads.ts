import { useEventListener, useThrottleFn } from '@vueuse/core';
import pLimit from 'p-limit';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { ApiError, isTemporary, sentenceOf } from '../api/client.ts';
import { isAway, onBack } from '../api/connection.ts';
import { uploadPhoto } from '../api/upload.ts';
import { useBatches } from './batches.ts';

export interface UploadItem {
  readonly batchId: number;
  readonly file: File;
  readonly name: string;
  readonly bytes: number;
  /** 0 to 1. */
  share: number;
  /** `held`: the server is away, and it is sent again when that is back. */
  state: 'waiting' | 'sending' | 'held' | 'added' | 'already' | 'refused' | 'cancelled';
  reason: string | null;
}

/** Sending more at once only makes each slower; reading them is the server's work. */
const AT_ONCE = 4;
const REFRESH_MS = 900;
const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 20_000;

/** Files on their way into a batch; goes on while other views are looked at. */
export const useUploads = defineStore('uploads', () => {
  const batches = useBatches();
  const batchId = ref<number | null>(null);
  const items = ref<UploadItem[]>([]);
  let controller = new AbortController();
  const refreshSoon = useThrottleFn(
    () => batches.refreshPhotos().catch(() => undefined),
    REFRESH_MS,
  );

  const count = (...states: UploadItem['state'][]): number =>
    items.value.filter((item) => states.includes(item.state)).length;
  const done = computed(() => count('added', 'already', 'refused', 'cancelled'));
  const added = computed(() => count('added'));
  const already = computed(() => count('already'));
  const held = computed(() => count('held'));
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
      ...files.map((file): UploadItem => ({
        ...{ batchId: id, file, name: file.name, bytes: file.size, share: 0, reason: null },
        state: 'waiting',
      })),
    );
    await sendAll(items.value.slice(first));
  }

  /** Files that were refused or cancelled, once more; the server knows those it has by their content. */
  async function retry(): Promise<void> {
    const again = items.value.filter(({ state }) => state === 'refused' || state === 'cancelled');
    if (controller.signal.aborted) controller = new AbortController();
    for (const item of again) item.state = 'waiting';
    await sendAll(again);
  }

  async function sendAll(some: readonly UploadItem[]): Promise<void> {
    const { signal } = controller;
    const limit = pLimit(AT_ONCE);
    await Promise.all(some.map((item) => limit(() => sendOne(item, signal))));
    await batches.refreshPhotos().catch(() => undefined);
  }

  async function sendOne(item: UploadItem, signal: AbortSignal): Promise<void> {
    for (let retryMs = FIRST_RETRY_MS; ; retryMs = Math.min(LONGEST_RETRY_MS, 2 * retryMs)) {
      if (signal.aborted) {
        item.state = 'cancelled';
        return;
      }
      try {
        item.state = 'sending';
        item.share = 0;
        const { isAlready } = await uploadPhoto(item.batchId, item.file, signal, (sent) => {
          item.share = sent;
        });
        item.state = isAlready ? 'already' : 'added';
        item.share = 1;
        void refreshSoon();
        return;
      } catch (error) {
        const isCancelled = error instanceof ApiError && error.code === 'cancelled';
        const isFull = error instanceof ApiError && error.code === 'storage';
        item.reason = sentenceOf(error);
        // A full disk is for the photographer to see to, and is told; the rest passes by itself.
        if (isCancelled || isFull || !isTemporary(error)) {
          item.state = isCancelled ? 'cancelled' : 'refused';
          item.share = 1;
          return;
        }
        item.state = 'held';
        await untilBack(retryMs, signal);
      }
    }
  }

  // What has not arrived would be lost: the browser asks before it goes.
  useEventListener(window, 'beforeunload', (event) => {
    if (isBusy.value) event.preventDefault();
  });

  function cancel(): void {
    controller.abort();
  }

  function clear(): void {
    if (!isBusy.value) items.value = [];
  }

  return {
    ...{ batchId, items, done, added, already, held, refused, isBusy, share },
    ...{ send, retry, cancel, clear },
  };
});

/** Resolves after a while, or as soon as the server answers again. */
function untilBack(delayMs: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const finish = (): void => {
      clearTimeout(timer);
      stop();
      signal.removeEventListener('abort', finish);
      done();
    };
    const timer = setTimeout(finish, delayMs);
    const stop = isAway.value ? onBack(finish) : () => undefined;
    signal.addEventListener('abort', finish);
  });
}
