import { watchDebounced } from '@vueuse/core';
import { readonly, ref } from 'vue';

/**
 * What a screen reader says beside what is in focus: counts, uploads, runs. It waits until a change
 * has come to rest, so that a drag or a run does not chatter; the last thing said is the one that holds.
 */
const last = ref('');
export const spoken = readonly(last);

const REST_MS = 1_200;

/**
 * @param text what is to be said; nothing is said of an empty one
 * @param atMostEveryMs of what changes all the time: how often it is said nevertheless
 */
export function useSpoken(text: () => string, atMostEveryMs?: number): void {
  watchDebounced(
    text,
    (now) => {
      if (now !== '') last.value = now;
    },
    { debounce: REST_MS, ...(atMostEveryMs === undefined ? {} : { maxWait: atMostEveryMs }) },
  );
}
