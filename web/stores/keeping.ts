import { useDebounceFn, useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { watch } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type { AdjustmentsWish } from '#core/contract/readability';
import { api, ApiError, NOT_REACHED_CODE } from '../api/client.ts';
import { useDraft } from './draft.ts';
import { useNotices } from './notices.ts';

/** A drag changes an adjustment with every frame; it is sent when the hand rests. */
const REST_MS = 350;
/** Thousands of photos can be adjusted at once; each request stays well below what is taken. */
const CHANGES_AT_ONCE = 250;

/** Changes of one batch on their way to the server. */
interface Parcel {
  readonly batchId: number;
  readonly changes: AdjustmentsWish['changes'];
}

/**
 * Keeps what was adjusted in a batch on the server: sent soon after each change, before an export,
 * and when the view or the page is left. What could not be sent waits, in order, and is tried again
 * with the next change.
 */
export const useKeeping = defineStore('keeping', () => {
  const draft = useDraft();
  const notices = useNotices();
  /** The open batch, with what the server has of it or is being sent. */
  let open: { readonly id: number; readonly known: Map<number, Adjustment> } | null = null;
  const parcels: Parcel[] = [];
  let sending: Promise<boolean> = Promise.resolve(true);

  const soon = useDebounceFn(() => flush(), REST_MS);
  watch(
    () => draft.adjustments,
    () => void soon(),
  );
  useEventListener(window, 'pagehide', () => {
    collect();
    for (const { batchId, changes } of parcels) {
      // A page that is being closed still finishes this.
      void fetch(`/api/batches/${batchId}/adjustments`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ changes }),
        keepalive: true,
      });
    }
  });

  /** A batch as the server has just told it; what is still on its way to it is newer. */
  function take(
    id: number,
    rows: readonly { readonly photoId: number; readonly adjustment: Adjustment }[],
  ): void {
    collect();
    const known = new Map(rows.map(({ photoId, adjustment }) => [photoId, adjustment]));
    for (const { batchId, changes } of parcels) if (batchId === id) lay(changes, known);
    open = { id, known };
    draft.takeAdjustments(new Map(known));
  }

  /** The view shows no batch any more. */
  async function leave(): Promise<void> {
    collect();
    open = null;
    draft.takeAdjustments(new Map());
    await flush();
  }

  /** Packs what has changed since the last time. */
  function collect(): void {
    if (!open) return;
    const { id, known } = open;
    const now = draft.adjustments;
    const changes = [...new Set([...known.keys(), ...now.keys()])]
      .filter((photoId) => known.get(photoId) !== now.get(photoId))
      .map((photoId) => ({ photoId, adjustment: now.get(photoId) ?? null }));
    if (changes.length === 0) return;
    lay(changes, known);
    for (let at = 0; at < changes.length; at += CHANGES_AT_ONCE) {
      parcels.push({ batchId: id, changes: changes.slice(at, at + CHANGES_AT_ONCE) });
    }
  }

  /** Sends what is not sent yet; false where that failed. */
  function flush(): Promise<boolean> {
    collect();
    sending = sending.then(send);
    return sending;
  }

  async function send(): Promise<boolean> {
    let isAllSent = true;
    while (parcels.length > 0) {
      const [{ batchId, changes }] = parcels;
      try {
        await api.put(`/batches/${batchId}/adjustments`, { changes });
      } catch (error) {
        notices.problem(error);
        isAllSent = false;
        // Refused, it would be refused again, and everything behind it would wait for good.
        const isRefused = error instanceof ApiError && error.code !== NOT_REACHED_CODE;
        if (!isRefused) return false;
      }
      parcels.shift();
    }
    return isAllSent;
  }

  return { take, leave, flush };
});

function lay(changes: Parcel['changes'], onto: Map<number, Adjustment>): void {
  for (const { photoId, adjustment } of changes) {
    if (adjustment) onto.set(photoId, adjustment);
    else onto.delete(photoId);
  }
}
