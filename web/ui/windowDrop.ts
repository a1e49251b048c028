import { computed, onScopeDispose, shallowRef, toValue, type MaybeRefOrGetter } from 'vue';
import type { Dropped } from './droppedFiles.ts';

/** Where files go that are dropped anywhere in the window: to what the view is for. */
export interface DropTarget {
  /** What happens to them, as a sentence begins: "Add to Breakwater mornings". */
  readonly says: MaybeRefOrGetter<string>;
  readonly take: (dropped: Dropped) => void;
}

const targets = shallowRef<readonly DropTarget[]>([]);
/** The view that was opened last has them. */
export const dropTarget = computed(() => targets.value.at(-1) ?? null);
export const dropSentence = computed(() => toValue(dropTarget.value?.says ?? ''));

/** Takes what is dropped anywhere, for as long as the component is there. */
export function useDropTarget(target: DropTarget): void {
  targets.value = [...targets.value, target];
  onScopeDispose(() => (targets.value = targets.value.filter((some) => some !== target)));
}
