import { computed, type ComputedRef } from 'vue';
import { useSaving, type SavedValue } from './saving.ts';

/** One value that is saved as it is changed. */
export interface Saved<T> {
  /** @param base the version it is changed from */
  readonly set: (value: T, base?: number | null) => void;
  /** What is to be saved and is not confirmed yet, or null. */
  readonly waiting: ComputedRef<T | null>;
  /** Why it could not be sent at the last try; it is tried again. */
  readonly failure: ComputedRef<string | null>;
  readonly flush: () => Promise<boolean>;
}

export function useSaved<T>(
  key: () => string,
  how: Omit<SavedValue<T>, 'key' | 'value' | 'base'>,
): Saved<T> {
  const saving = useSaving();
  return {
    set: (value, base = null) => saving.put<T>({ ...how, key: key(), value, base }),
    waiting: computed(() => saving.valueOf<T>(key())),
    failure: computed(() => saving.failureOf(key())),
    flush: saving.flush,
  };
}
