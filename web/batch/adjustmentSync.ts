import { useDebounceFn, useEventListener, useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { watch } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import { api, isTemporary, type ApiError, type CallOptions } from '../api/client.ts';
import { useDraft } from '../preset/draft.ts';
import { useSaving } from '../app/saving.ts';

/** A drag changes an adjustment with every frame; it is sent when the hand rests. */
const REST_MS = 350;
/** Thousands of photos can be adjusted at once; each request stays well below what is taken. */
const CHANGES_AT_ONCE = 250;

/** Changes of one batch by photo; null takes the adjustment of a photo back. */
type Changes = Map<number, Adjustment | null>;
type Rows = readonly { readonly photoId: number; readonly adjustment: Adjustment }[];

/**
 * Keeps what was adjusted in a batch on the server: sent soon after each change, before an export,
 * and when the view or the page is left. What is not confirmed is kept in the browser, too, so that it
 * is sent though the page was closed while the server was away.
 */
export const useAdjustmentSync = defineStore('adjustment-sync', () => {
  const draft = useDraft();
  const saving = useSaving();
  /** The open batch, with what the server has of it or is being sent. */
  let open: { readonly id: number; known: Map<number, Adjustment> } | null = null;
  const pending = new Map<number, Changes>();
  const unsent = useLocalStorage<Record<string, [number, Adjustment | null][]>>(
    'light-crest-unsent-adjustments',
    {},
  );

  const soon = useDebounceFn(() => collect(), REST_MS);
  watch(
    () => draft.adjustments,
    () => void soon(),
  );
  // Before the values that wait are sent on the way out.
  useEventListener(window, 'pagehide', () => collect(), { capture: true });

  for (const [batchId, changes] of Object.entries(unsent.value)) {
    pending.set(Number(batchId), new Map(changes));
    put(Number(batchId));
  }

  /** A batch is being opened: what is changed before the server has told of it counts, too. */
  function begin(id: number): void {
    if (open?.id === id) return;
    collect();
    open = { id, known: new Map() };
    draft.takeAdjustments(new Map());
  }

  /** A batch as the server has just told it; what is still on its way to it is newer. */
  function take(id: number, rows: Rows): void {
    begin(id);
    const known = told(id, rows);
    draft.takeAdjustments(new Map(known));
  }

  /** The same while it is open, since another window may have changed it. */
  function follow(id: number, rows: Rows): void {
    if (open?.id !== id) return;
    const known = told(id, rows);
    if (!isSame(known, draft.adjustments)) draft.followAdjustments(new Map(known));
  }

  function told(id: number, rows: Rows): Map<number, Adjustment> {
    collect();
    const known = new Map(rows.map(({ photoId, adjustment }) => [photoId, adjustment]));
    lay(pending.get(id) ?? new Map(), known);
    open = { id, known };
    return known;
  }

  /** The view shows no batch any more. */
  async function leave(): Promise<void> {
    collect();
    open = null;
    draft.takeAdjustments(new Map());
    await saving.flush();
  }

  /** Takes up what has changed since the last time. */
  function collect(): void {
    if (!open) return;
    const { id, known } = open;
    const now = draft.adjustments;
    const changed = [...new Set([...known.keys(), ...now.keys()])].filter(
      (photoId) => known.get(photoId) !== now.get(photoId),
    );
    if (changed.length === 0) return;
    const changes = pending.get(id) ?? new Map<number, Adjustment | null>();
    for (const photoId of changed) changes.set(photoId, now.get(photoId) ?? null);
    pending.set(id, changes);
    lay(changes, known);
    put(id);
  }

  function put(batchId: number): void {
    remember(batchId);
    saving.put<Changes>({
      key: `adjustments of batch ${batchId}`,
      value: new Map(pending.get(batchId)),
      send: (changes, options) => send(batchId, changes, options),
      refused: (_, changes) => settle(batchId, changes),
    });
  }

  async function send(batchId: number, changes: Changes, options: CallOptions): Promise<void> {
    const all = [...changes].map(([photoId, adjustment]) => ({ photoId, adjustment }));
    let refusal: ApiError | null = null;
    for (let at = 0; at < all.length; at += CHANGES_AT_ONCE) {
      const portion = { changes: all.slice(at, at + CHANGES_AT_ONCE) };
      try {
        await api.put(`/batches/${batchId}/adjustments`, portion, options);
      } catch (error) {
        // Refused, it would be refused again; what is behind it need not wait for that.
        if (isTemporary(error)) throw error;
        refusal = error as ApiError;
      }
    }
    if (refusal) throw refusal;
    settle(batchId, changes);
  }

  /** What was sent is not waited for, unless it was changed meanwhile. */
  function settle(batchId: number, sent: Changes): void {
    const changes = pending.get(batchId);
    for (const [photoId, adjustment] of sent) {
      if (changes?.get(photoId) === adjustment) changes.delete(photoId);
    }
    if (changes?.size === 0) pending.delete(batchId);
    remember(batchId);
  }

  function remember(batchId: number): void {
    const all = new Map(Object.entries(unsent.value));
    const changes = pending.get(batchId);
    if (changes) all.set(String(batchId), [...changes]);
    else all.delete(String(batchId));
    unsent.value = Object.fromEntries(all);
  }

  /** Sends what is not sent yet; false where that failed. */
  function flush(): Promise<boolean> {
    collect();
    return saving.flush();
  }

  return { begin, take, follow, leave, flush };
});

function lay(changes: Changes, onto: Map<number, Adjustment>): void {
  for (const [photoId, adjustment] of changes) {
    if (adjustment) onto.set(photoId, adjustment);
    else onto.delete(photoId);
  }
}

function isSame(a: ReadonlyMap<number, Adjustment>, b: ReadonlyMap<number, Adjustment>): boolean {
  if (a.size !== b.size) return false;
  return [...a].every(
    ([id, adjustment]) => JSON.stringify(adjustment) === JSON.stringify(b.get(id)),
  );
}
