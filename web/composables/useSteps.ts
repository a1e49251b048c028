import { useDebouncedRefHistory } from '@vueuse/core';
import type { Ref } from 'vue';

/** A drag is one step to undo: changes closer together than this belong together. */
const STEP_PAUSE_MS = 300;
const STEPS_KEPT = 200;

/** Undo and redo of a state that is replaced, never changed in place. */
export function useSteps<T>(state: Ref<T>) {
  const history = useDebouncedRefHistory(state, {
    debounce: STEP_PAUSE_MS,
    capacity: STEPS_KEPT,
  });

  /** What was changed a moment ago is a step, too, though its pause is not over. */
  function undo(): void {
    if (history.last.value.snapshot !== state.value) history.commit();
    history.undo();
  }

  /** From here on; what was before is not a step that could be taken back. */
  function start(): void {
    history.commit();
    history.clear();
  }

  return {
    ...{ undo, redo: history.redo, start },
    ...{ canUndo: history.canUndo, canRedo: history.canRedo },
  };
}
