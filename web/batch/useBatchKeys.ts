import type { Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { actionOf, meansSomething } from '../app/shortcuts.ts';
import { useHeldKey, useKeys } from '../ui/useKeys.ts';

/** What the keys of an open batch do. */
export interface BatchActions {
  readonly current: Ref<PhotoView | null>;
  readonly selectAll: () => void;
  readonly toggle: (id: number) => void;
  readonly step: (by: 1 | -1) => void;
  readonly leaveOut: () => void;
  readonly look: () => void;
  readonly goToExport: () => void;
  /** Escape leaves one thing at a time, the innermost first. */
  readonly leaveOne: () => void;
}

/** @returns whether the mark is hidden while its key is held */
export function useBatchKeys(actions: BatchActions): { isMarkHidden: Ref<boolean> } {
  const isMarkHidden = useHeldKey((event) => actionOf(event) === 'hide-mark');
  const { current } = actions;

  useKeys((event) => {
    const action = actionOf(event);
    if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) actions.selectAll();
    else if (!meansSomething(event)) return false;
    else if (action === 'previous' || action === 'next') actions.step(action === 'next' ? 1 : -1);
    else if (action === 'export') actions.goToExport();
    else if (action === 'leave-out') actions.leaveOut();
    else if (event.key === 'Escape') actions.leaveOne();
    else if (isOnControl(event.target)) return false;
    else if (event.key === ' ' && current.value) actions.toggle(current.value.id);
    else if (event.key === 'Enter' && current.value) actions.look();
    else return false;
    return true;
  });
  return { isMarkHidden };
}

function isOnControl(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && target.closest('button, a, input, select, label') !== null
  );
}
