import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue';

/** Changes of one name closer together than this are one step: a drag, a word being typed. */
const TOGETHER_MS = 900;
const STEPS_KEPT = 300;

interface Step<T> {
  readonly name: string;
  readonly state: T;
}

export interface NamedSteps<T> {
  readonly state: Ref<T>;
  /** What undo would take back, and redo bring again. */
  readonly undoName: ComputedRef<string | null>;
  readonly redoName: ComputedRef<string | null>;
  readonly change: (name: string, state: T) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** From here on: what was before cannot be taken back. */
  readonly start: (state: T) => void;
  /** The next change is a step of its own, whatever its name. */
  readonly settle: () => void;
}

/** Undo and redo of a state that is replaced, never changed in place; each step has a name. */
export function useNamedSteps<T>(first: T): NamedSteps<T> {
  const steps = shallowRef<readonly Step<T>[]>([{ name: '', state: first }]);
  const at = ref(0);
  let lastChange = -Infinity;

  function change(name: string, state: T): void {
    const now = performance.now();
    const done = steps.value.slice(0, at.value + 1);
    const last = done[done.length - 1];
    const isTogether = at.value > 0 && last.name === name && now - lastChange < TOGETHER_MS;
    lastChange = now;
    const kept = isTogether ? done.slice(0, -1) : done.slice(-STEPS_KEPT);
    steps.value = [...kept, { name, state }];
    at.value = steps.value.length - 1;
  }

  function go(by: 1 | -1): void {
    lastChange = -Infinity;
    at.value = Math.min(Math.max(at.value + by, 0), steps.value.length - 1);
  }

  return {
    state: computed(() => steps.value[at.value].state) as Ref<T>,
    undoName: computed(() => (at.value > 0 ? steps.value[at.value].name : null)),
    redoName: computed(() => steps.value[at.value + 1]?.name ?? null),
    ...{ change, undo: () => go(-1), redo: () => go(1) },
    settle: () => (lastChange = -Infinity),
    start(state: T): void {
      steps.value = [{ name: '', state }];
      at.value = 0;
      lastChange = -Infinity;
    },
  };
}
