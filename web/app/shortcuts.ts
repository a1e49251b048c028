import { computed, type ComputedRef } from 'vue';
import { KEY_ACTIONS, USUAL_KEYS, type KeyAction } from '#core/contract/settings';
import { isModal, isTyping } from '../ui/keyTargets.ts';
import { useLibrary } from './library.ts';

/** What each of the single keys does. */
export const ACTION_WORDS: Readonly<Record<KeyAction, string>> = {
  larger: 'larger',
  smaller: 'smaller',
  tone: 'next tone',
  opacity: 'opacity, one step down',
  previous: 'photo before',
  next: 'photo after',
  'hide-mark': 'hold to see the photo without the mark',
  'leave-out': 'leave the photo out, or take it in again',
  zoom: 'in the closer look: whole photo, 100 %, 200 %',
  wipe: 'in the closer look: wipe between before and after',
  export: 'go to export',
  help: 'the list of shortcuts',
};

export interface Shortcut {
  readonly keys: readonly string[];
  readonly does: string;
}

const PLACE: Shortcut = {
  keys: ['1', '…', '9'],
  does: 'put the mark where the key lies on a number pad',
};
/** Keys that write nothing are always there. */
const LASTING: readonly Shortcut[] = [
  { keys: ['←', '↑', '↓', '→'], does: 'nudge the mark; with Shift ten times as far' },
  { keys: ['Space'], does: 'select the photo, or take it out of the selection' },
  { keys: ['Enter'], does: 'closer look at the photo' },
  { keys: ['Esc'], does: 'leave the closer look, close a sheet, select nothing' },
  { keys: ['Ctrl', 'A'], does: 'select all photos' },
  { keys: ['Ctrl', 'Z'], does: 'undo; with Shift redo' },
];

/** All shortcuts as they are now; the listeners stand beside what they do. */
export function useShortcuts(): ComputedRef<readonly Shortcut[]> {
  const library = useLibrary();
  return computed(() => {
    const { singleKeys, keys } = library.settings;
    if (!singleKeys) return LASTING;
    const single = KEY_ACTIONS.map((action) => ({
      keys: [keys[action] ?? USUAL_KEYS[action]],
      does: ACTION_WORDS[action],
    }));
    return [PLACE, ...single, ...LASTING];
  });
}

/** Keys mean the mark and its photos only where those are: not on the head of the page. */
export function isAtWork(target: EventTarget | null): boolean {
  if (!(target instanceof Element) || target === document.body) return true;
  return target.closest('main') !== null;
}

/** Whether a key may do something of its own now: nobody types, asks or speaks. */
export function meansSomething(event: KeyboardEvent): boolean {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return false;
  return !isModal() && !isTyping(event.target) && isAtWork(event.target);
}

/** What a single key is there for, or nothing. */
export function actionOf(event: KeyboardEvent): KeyAction | null {
  const { singleKeys, keys } = useLibrary().settings;
  if (!singleKeys || !meansSomething(event)) return null;
  const actionFor = (key: string): KeyAction | undefined =>
    KEY_ACTIONS.find((action) => (keys[action] ?? USUAL_KEYS[action]) === key);
  // The plus of a keyboard without a pad is half a Shift away.
  return actionFor(event.key) ?? (event.key === '=' ? actionFor('+') : undefined) ?? null;
}
