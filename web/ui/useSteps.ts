import { watchDebounced } from '@vueuse/core';
import { computed, toRaw, type Ref } from 'vue';
import { useNamedSteps } from './useNamedSteps.ts';

/** A drag is one step to undo: changes closer together than this belong together. */
const STEP_PAUSE_MS = 300;

/** Undo and redo of a state that others replace, never change in place; its steps have no names. */
export function useSteps<T>(state: Ref<T>) {
  const steps = useNamedSteps<T>(state.value);

  /** What is noted already is no step: an undo, or the state that was begun with. */
  function note(): void {
    if (toRaw(steps.state.value) === toRaw(state.value)) return;
    steps.settle();
    steps.change('', state.value);
  }

  watchDebounced(state, note, { debounce: STEP_PAUSE_MS });

  /** What was changed a moment ago is a step, too, though its pause is not over. */
  function go(move: () => void): void {
    note();
    move();
    state.value = steps.state.value;
  }

  /** From here on; what was before is not a step that could be taken back. */
  function start(): void {
    steps.start(state.value);
  }

  return {
    ...{ undo: () => go(steps.undo), redo: () => go(steps.redo), start },
    canUndo: computed(() => steps.undoName.value !== null),
    canRedo: computed(() => steps.redoName.value !== null),
  };
}
