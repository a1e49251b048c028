import { useManualRefHistory, watchDebounced } from '@vueuse/core';
import { toRaw, type Ref } from 'vue';

/** A drag is one step to undo: changes closer together than this belong together. */
const STEP_PAUSE_MS = 300;
const STEPS_KEPT = 200;

/** Undo and redo of a state that is replaced, never changed in place. */
export function useSteps<T>(state: Ref<T>) {
  const history = useManualRefHistory(state, { capacity: STEPS_KEPT });

  /** What is noted already is no step: an undo, or the state that was begun with. */
  function note(): void {
    if (toRaw(history.last.value.snapshot) !== toRaw(state.value)) history.commit();
  }

  watchDebounced(state, note, { debounce: STEP_PAUSE_MS });

  /** What was changed a moment ago is a step, too, though its pause is not over. */
  function undo(): void {
    note();
    history.undo();
  }

  /** From here on; what was before is not a step that could be taken back. */
  function start(): void {
    note();
    history.clear();
  }

  return {
    ...{ undo, redo: history.redo, start },
    ...{ canUndo: history.canUndo, canRedo: history.canRedo },
  };
}
