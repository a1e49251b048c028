import { readonly, ref } from 'vue';

/** Whether the server answers, as far as the last requests tell, and who is told when it is back. */

const isAwayNow = ref(false);
const listeners = new Set<() => void>();

export const isAway = readonly(isAwayNow);

export function noteAway(): void {
  isAwayNow.value = true;
}

/** An answer came, whatever it says. */
export function noteAnswer(): void {
  if (!isAwayNow.value) return;
  isAwayNow.value = false;
  for (const listener of listeners) listener();
}

/** Is called whenever the server answers again after it did not; the answer stops that. */
export function onBack(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
