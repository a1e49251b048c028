import { useEventListener } from '@vueuse/core';
import { ref, type Ref } from 'vue';
import { isModal, isTyping } from './keyTargets.ts';

interface KeyRules {
  /** Also while a field has the focus, where what is typed is meant, too. */
  readonly whileTyping?: boolean;
  /** Before the parts that it lies above, which leave alone what it took. */
  readonly first?: boolean;
}

/**
 * What keys do while a part of the page is there. A key that another part took, or that is meant for a
 * question or a field, is left alone.
 * @param take - whether it took the key, which does nothing else then
 */
export function useKeys(take: (event: KeyboardEvent) => boolean, rules: KeyRules = {}): void {
  const { whileTyping = false, first = false } = rules;
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (event.defaultPrevented || isModal()) return;
      if (!whileTyping && isTyping(event.target)) return;
      if (take(event)) event.preventDefault();
    },
    { capture: first },
  );
}

/** Whether a key is held; it may be let go of where the page does not hear of it. */
export function useHeldKey(isIt: (event: KeyboardEvent) => boolean): Ref<boolean> {
  const isHeld = ref(false);
  useKeys((event) => {
    if (!isIt(event)) return false;
    isHeld.value = true;
    return true;
  });
  useEventListener(window, ['keyup', 'blur'], () => (isHeld.value = false));
  return isHeld;
}
