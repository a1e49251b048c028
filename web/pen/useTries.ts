import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { PenStroke } from '#core/contract/pen';

interface Try {
  readonly id: number;
  readonly strokes: PenStroke[];
  /** Strokes taken back, newest last. */
  readonly undone: PenStroke[];
}

/** Signatures that were tried, of which one is in hand. */
export function useTries() {
  const emptyTry = (id: number): Try => ({ id, strokes: [], undone: [] });
  /** Kept in the browser until a try is saved: nobody signs twice for a closed window. */
  const tries = useLocalStorage<Try[]>('light-crest-pen-tries', [emptyTry(1)], { flush: 'post' });
  const currentId = ref(tries.value[tries.value.length - 1]?.id ?? 1);
  const current = computed(
    () => tries.value.find(({ id }) => id === currentId.value) ?? tries.value[0] ?? emptyTry(1),
  );

  function addTry(strokes: PenStroke[] = []): void {
    const id = Math.max(0, ...tries.value.map((some) => some.id)) + 1;
    const kept = tries.value.filter((some) => some.strokes.length > 0);
    tries.value = [...kept, { id, strokes, undone: [] }];
    currentId.value = id;
  }

  function update(next: Pick<Try, 'strokes' | 'undone'>): void {
    tries.value = tries.value.map((some) =>
      some.id === current.value.id ? { ...some, ...next } : some,
    );
  }

  const addStroke = (stroke: PenStroke): void =>
    update({ strokes: [...current.value.strokes, stroke], undone: [] });

  function undo(): void {
    const { strokes, undone } = current.value;
    const last = strokes[strokes.length - 1];
    if (last) update({ strokes: strokes.slice(0, -1), undone: [...undone, last] });
  }

  function redo(): void {
    const { strokes, undone } = current.value;
    const last = undone[undone.length - 1];
    if (last) update({ strokes: [...strokes, last], undone: undone.slice(0, -1) });
  }

  function drop(id: number): void {
    const rest = tries.value.filter((some) => some.id !== id);
    tries.value = rest.length > 0 ? rest : [emptyTry(id + 1)];
    if (!tries.value.some((some) => some.id === currentId.value)) {
      currentId.value = tries.value[tries.value.length - 1].id;
    }
  }

  return { tries, current, currentId, addTry, addStroke, undo, redo, drop };
}
