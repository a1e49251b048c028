import { useDebounceFn, useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { watch } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type { AdjustmentsWish } from '#core/contract/readability';
import { api } from '../api/client.ts';
import { useDraft } from './draft.ts';
import { useNotices } from './notices.ts';

/** A drag changes an adjustment with every frame; it is sent when the hand rests. */
const REST_MS = 350;

/**
 * Keeps what was adjusted in a batch on the server: sent soon after each change, before an export,
 * and when the view or the page is left. What could not be sent is tried again with the next change.
 */
export const useKeeping = defineStore('keeping', () => {
  const draft = useDraft();
  const notices = useNotices();
  let batchId: number | null = null;
  /** What the server has. */
  let known = new Map<number, Adjustment>();
  let sending: Promise<boolean> = Promise.resolve(true);

  const soon = useDebounceFn(() => flush(), REST_MS);
  watch(
    () => draft.adjustments,
    () => void soon(),
  );
  useEventListener(window, 'pagehide', () => {
    const changes = unsent();
    if (batchId === null || changes.length === 0) return;
    // A page that is being closed still finishes this.
    void fetch(`/api/batches/${batchId}/adjustments`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ changes }),
      keepalive: true,
    });
  });

  /** A batch as the server has just told it. What another batch had must have been sent before. */
  function take(
    id: number,
    rows: readonly { readonly photoId: number; readonly adjustment: Adjustment }[],
  ): void {
    batchId = id;
    known = new Map(rows.map(({ photoId, adjustment }) => [photoId, adjustment]));
    draft.takeAdjustments(new Map(known));
  }

  /** The view shows no batch any more. */
  async function leave(): Promise<void> {
    await flush();
    batchId = null;
    known = new Map();
    draft.takeAdjustments(new Map());
  }

  function unsent(): AdjustmentsWish['changes'] {
    const now = draft.adjustments;
    return [...new Set([...known.keys(), ...now.keys()])]
      .filter((photoId) => known.get(photoId) !== now.get(photoId))
      .map((photoId) => ({ photoId, adjustment: now.get(photoId) ?? null }));
  }

  /** Sends what is not sent yet; false where that failed. */
  function flush(): Promise<boolean> {
    sending = sending.then(send);
    return sending;
  }

  async function send(): Promise<boolean> {
    const changes = unsent();
    if (batchId === null || changes.length === 0) return true;
    const done = await notices.attempt(async () => {
      await api.put(`/batches/${batchId}/adjustments`, { changes });
      return true;
    });
    if (!done) return false;
    for (const { photoId, adjustment } of changes) {
      if (adjustment) known.set(photoId, adjustment);
      else known.delete(photoId);
    }
    return true;
  }

  return { take, leave, flush };
});
