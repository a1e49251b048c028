import { defineStore } from 'pinia';
import { ref } from 'vue';
import { ApiError, NOT_REACHED_CODE, sentenceOf } from '../api/client.ts';
import { onBack } from '../api/connection.ts';

export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly kind: 'done' | 'problem';
  readonly link: NoticeLink | null;
}

/** Where it leads, or what it does. */
export interface NoticeLink {
  readonly label: string;
  readonly to?: string;
  readonly act?: () => void;
}

/** Good news leaves by itself; a problem stays until it is closed. */
const DONE_MS = 5_000;
/** Time to think again. */
const UNDO_MS = 12_000;

/** Short sentences at the edge of the page about what has happened. */
export const useNotices = defineStore('notices', () => {
  const notices = ref<Notice[]>([]);
  let lastId = 0;

  function done(text: string, link: Notice['link'] = null): void {
    const id = add({ text, link, kind: 'done' });
    setTimeout(() => close(id), link?.act ? UNDO_MS : DONE_MS);
  }

  function problem(error: unknown): void {
    const id = add({ text: sentenceOf(error), link: null, kind: 'problem' });
    if (error instanceof ApiError && error.code === NOT_REACHED_CODE) away.add(id);
  }

  /** What was said because the server was away is over when it is back. */
  const away = new Set<number>();
  onBack(() => {
    away.forEach(close);
    away.clear();
  });

  function add(notice: Omit<Notice, 'id'>): number {
    // The same said twice is said once: a server that is away would fill the tray.
    const same = notices.value.find(
      ({ text, kind }) => text === notice.text && kind === notice.kind,
    );
    if (same && !notice.link) return same.id;
    notices.value.push({ ...notice, id: ++lastId });
    return lastId;
  }

  function close(id: number): void {
    notices.value = notices.value.filter((notice) => notice.id !== id);
  }

  /** Does something, and says so if it fails. */
  async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
    try {
      return await work();
    } catch (error) {
      problem(error);
      return undefined;
    }
  }

  return { notices, done, problem, close, attempt };
});
