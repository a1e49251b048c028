import { defineStore } from 'pinia';
import { ref } from 'vue';
import { ApiError, CHANGED_CODE } from '../api/client.ts';

/** Which of two states goes on: what is in this window, or what another one saved meanwhile. */
export type ConflictChoice = 'mine' | 'theirs';

interface Conflict {
  /** A sentence that names what was changed. */
  readonly text: string;
  readonly decide: (choice: ConflictChoice) => void;
}

/** Questions about what was changed in two windows: one at a time, asked in the one dialog for it. */
export const useConflicts = defineStore('conflicts', () => {
  const open = ref<Conflict | null>(null);
  let last: Promise<unknown> = Promise.resolve();

  function ask(text: string): Promise<ConflictChoice> {
    const asked = last.then(
      () =>
        new Promise<ConflictChoice>((done) => {
          open.value = {
            text,
            decide: (choice) => {
              open.value = null;
              done(choice);
            },
          };
        }),
    );
    last = asked;
    return asked;
  }

  /**
   * Saves a change made to a version. Where another was saved since, the photographer says which goes
   * on.
   *
   * @returns what the server has now, or null where the other one goes on
   */
  async function saveOn<T>(base: number, send: (base: number) => Promise<T>): Promise<T | null> {
    for (let version = base; ;) {
      try {
        return await send(version);
      } catch (error) {
        const isChanged = error instanceof ApiError && error.code === CHANGED_CODE;
        if (!isChanged) throw error;
        if ((await ask(error.message)) === 'theirs') return null;
        version = Number(error.details.version);
      }
    }
  }

  return { open, ask, saveOn };
});
