import { useKeys } from './useKeys.ts';

/** Ctrl+Z and Ctrl+Shift+Z, wherever something can be taken back. */
export function useUndoKeys(steps: {
  readonly undo: () => void;
  readonly redo: () => void;
  /** Also while a field has the focus, where what is typed is a step, too. */
  readonly whileTyping?: boolean;
}): void {
  const { whileTyping = false } = steps;
  useKeys(
    (event) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return false;
      if (event.shiftKey) steps.redo();
      else steps.undo();
      return true;
    },
    { whileTyping },
  );
}
