import { useEventListener } from '@vueuse/core';

/**
 * While a button is down the hand only pauses, and nothing that it holds may be exchanged.
 *
 * @param rest called when the hand is off: at once, or when the button is let go
 * @returns says that nothing has moved for a moment
 */
export function useRest(rest: () => void): () => void {
  let isPressed = false;
  let isDue = false;

  function comeToRest(): void {
    isDue = isPressed;
    if (!isPressed) rest();
  }

  useEventListener(window, 'pointerdown', () => (isPressed = true), { capture: true });
  useEventListener(window, ['pointerup', 'pointercancel'], () => {
    isPressed = false;
    if (isDue) comeToRest();
  });
  return comeToRest;
}
