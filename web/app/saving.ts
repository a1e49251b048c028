import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, triggerRef } from 'vue';
import {
  CHANGED_CODE,
  isTemporary,
  sentenceOf,
  type ApiError,
  type CallOptions,
} from '../api/client.ts';
import { isAway, onBack } from '../api/connection.ts';
import { onReconnect } from '../api/events.ts';
import { chooseSide } from './conflicts.ts';
import { useNotices } from './notices.ts';

export interface SendOptions extends CallOptions {
  /** The version that the value was changed from; null where versions do not matter. */
  readonly base: number | null;
}

/** A value that belongs on the server and is not confirmed by it yet. */
export interface SavedValue<T> {
  /** What it is the value of: a later one takes the place of one that waits. */
  readonly key: string;
  readonly value: T;
  /** The version it was changed from, or null. */
  readonly base?: number | null;
  /** How long the hand has to rest before it is sent, ms. */
  readonly restMs?: number;
  /** @returns the version the server has then */
  readonly send: (value: T, options: SendOptions) => Promise<number | null | void>;
  /** It is refused, and would be again. What was entered is the caller's to keep. */
  readonly refused?: (error: ApiError, value: T) => void;
  /** Another window's goes on in its place. */
  readonly theirs?: () => void;
}

interface Entry {
  saved: SavedValue<unknown>;
  base: number | null;
  dueMs: number;
  /** A later value, which came while this one was being sent. */
  next: SavedValue<unknown> | null;
  isSending: boolean;
  /** How long the next try waits, should this one fail, ms. */
  retryMs: number;
  /** Why the last try failed, as a sentence. */
  failure: string | null;
}

const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 20_000;

/**
 * All values that are being saved as one goes, in the order they were first changed: adjustments,
 * designs, deliveries, settings, the order of presets. They outlive the view that changed them. What is
 * refused is told; what fails waits and is sent again, after a while and when the server is back.
 */
export const useSaving = defineStore('saving', () => {
  const notices = useNotices();
  const entries = shallowRef<Entry[]>([]);
  let sending: Promise<boolean> | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const waiting = computed(() => entries.value.length);
  const isWaiting = (key: string): boolean => entries.value.some(({ saved }) => saved.key === key);

  /** Why a value could not be sent at the last try, or null. */
  function failureOf(key: string): string | null {
    return entries.value.find(({ saved }) => saved.key === key)?.failure ?? null;
  }

  /** The value that is to be saved under a key, where one waits. */
  function valueOf<T>(key: string): T | null {
    const entry = entries.value.find(({ saved }) => saved.key === key);
    return entry ? ((entry.next ?? entry.saved).value as T) : null;
  }

  function put<T>(saved: SavedValue<T>): void {
    const given = saved as SavedValue<unknown>;
    const known = entries.value.find((entry) => entry.saved.key === saved.key);
    const dueMs = Date.now() + (saved.restMs ?? 0);
    if (!known) {
      const base = saved.base ?? null;
      entries.value.push({
        saved: given,
        base,
        dueMs,
        next: null,
        isSending: false,
        retryMs: FIRST_RETRY_MS,
        failure: null,
      });
    } else {
      if (known.isSending) known.next = given;
      else known.saved = given;
      known.dueMs = dueMs;
    }
    triggerRef(entries);
    sendSoon(saved.restMs ?? 0);
  }

  /** Nothing of it is sent any more. */
  function drop(key: string): void {
    entries.value = entries.value.filter(({ saved }) => saved.key !== key);
  }

  /** Sends all that waits, now. @returns whether everything is confirmed */
  async function flush(): Promise<boolean> {
    for (const entry of entries.value) entry.dueMs = 0;
    await sending;
    return send();
  }

  function sendSoon(afterMs: number): void {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), afterMs);
  }

  function send(): Promise<boolean> {
    sending ??= sendDue().finally(() => (sending = null));
    return sending;
  }

  async function sendDue(): Promise<boolean> {
    clearTimeout(timer);
    let wasRefused = false;
    for (;;) {
      const now = Date.now();
      const entry = entries.value.find(({ dueMs }) => dueMs <= now);
      if (!entry) break;
      const end = await sendOne(entry);
      wasRefused ||= end === 'refused';
      if (end !== 'failed') continue;
      // What the server fails at must not hold up the others; nothing goes while it is away.
      const held = isAway.value ? entries.value.filter(({ dueMs }) => dueMs <= now) : [entry];
      for (const some of held) some.dueMs = Date.now() + entry.retryMs;
      entry.retryMs = Math.min(LONGEST_RETRY_MS, entry.retryMs * 2);
    }
    const later = Math.min(...entries.value.map(({ dueMs }) => dueMs));
    if (Number.isFinite(later)) sendSoon(Math.max(0, later - Date.now()));
    return entries.value.length === 0 && !wasRefused;
  }

  async function sendOne(entry: Entry): Promise<'sent' | 'failed' | 'refused'> {
    entry.isSending = true;
    try {
      const version = await entry.saved.send(entry.saved.value, { base: entry.base });
      if (typeof version === 'number') entry.base = version;
      entry.retryMs = FIRST_RETRY_MS;
      goOn(entry);
      return 'sent';
    } catch (error) {
      if (isTemporary(error)) {
        // What came meanwhile is newer than what could not be sent.
        if (entry.next) entry.saved = entry.next;
        entry.next = null;
        entry.failure = sentenceOf(error);
        triggerRef(entries);
        return 'failed';
      }
      return await decline(entry, error as ApiError);
    } finally {
      entry.isSending = false;
    }
  }

  function goOn(entry: Entry): void {
    if (entry.next) entry.saved = entry.next;
    else entries.value = entries.value.filter((some) => some !== entry);
    entry.next = null;
  }

  async function decline(entry: Entry, error: ApiError): Promise<'sent' | 'refused'> {
    const { saved } = entry;
    if (error.code === CHANGED_CODE) {
      if ((await chooseSide(error.message)) === 'mine') {
        entry.base = Number(error.details.version);
        if (entry.next) entry.saved = entry.next;
        entry.next = null;
        return 'sent';
      }
      drop(saved.key);
      saved.theirs?.();
      return 'refused';
    }
    notices.problem(error);
    const last = entry.next ?? saved;
    drop(saved.key);
    last.refused?.(error, last.value);
    return 'refused';
  }

  const again = (): void => {
    for (const entry of entries.value) {
      entry.dueMs = 0;
      entry.retryMs = FIRST_RETRY_MS;
    }
    if (entries.value.length > 0) void send();
  };
  onBack(again);
  onReconnect(again);

  useEventListener(window, 'pagehide', () => {
    for (const { saved, next, base } of entries.value) {
      const last = next ?? saved;
      // A page that is being closed still finishes this.
      Promise.resolve(last.send(last.value, { base, keepalive: true })).catch(() => undefined);
    }
  });
  useEventListener(window, 'beforeunload', (event) => {
    // Sent on the way out, unless there is nobody to take it, or the one before it is not answered yet.
    const hasOneBehind = entries.value.some(({ next }) => next !== null);
    if (hasOneBehind || (entries.value.length > 0 && isAway.value)) event.preventDefault();
  });

  return { waiting, isWaiting, failureOf, valueOf, put, drop, flush };
});
