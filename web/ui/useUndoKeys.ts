import { useEventListener } from '@vueuse/core';
import { isModal, isTyping } from './keyTargets.ts';

/** Ctrl+Z and Ctrl+Shift+Z, wherever something can be taken back. */
export function useUndoKeys(steps: {
  readonly undo: () => void;
  readonly redo: () => void;
  /** Also while a field has the focus, where what is typed is a step, too. */
  readonly whileTyping?: boolean;
}): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
    if (!isUndo || event.defaultPrevented || isModal()) return;
    if (!steps.whileTyping && isTyping(event.target)) return;
    event.preventDefault();
    if (event.shiftKey) steps.redo();
    else steps.undo();
  });
}
