import type { Anchor, PresetRule, ToneChoice } from '#core/contract/preset';
import type { KeyAction } from '#core/contract/settings';
import { DEFAULT_RULE, SIZE_MAX_PERCENT, SIZE_MAX_PX } from '#core/contract/preset';
import { ANCHOR_HOLDS } from '#core/placement/anchor';
import { clamp } from '#core/placement/geometry';
import { mostOpacity } from '#core/readability/choice';
import { useDraft } from '../draft.ts';
import { actionOf, meansSomething } from '../../app/shortcuts.ts';
import { useLibrary } from '../../app/library.ts';
import { useUndoKeys } from '../../ui/useUndoKeys.ts';
import { useKeys } from '../../ui/useKeys.ts';

/** The number pad as a picture of the frame. */
const ANCHOR_KEYS: Readonly<Record<string, Anchor>> = Object.freeze({
  7: 'top-left',
  8: 'top',
  9: 'top-right',
  4: 'left',
  5: 'centre',
  6: 'right',
  1: 'bottom-left',
  2: 'bottom',
  3: 'bottom-right',
});

const NUDGE_PERCENT = 0.1;
const NUDGE_PX = 1;
const SHIFT_FACTOR = 10;
const SIZE_FACTOR = 1.04;
const OPACITY_STEPS = [1, 0.85, 0.7, 0.5, 0.3, 0.15] as const;
/** Typed decimals such as 3.1000000000000005 are nobody's wish. */
const tidy = (value: number): number => Math.round(value * 1_000) / 1_000;

/** Shortcuts that shape the mark; the same in every view that has a bench. */
export function useBenchKeys(tones: () => readonly ToneChoice[]): void {
  const draft = useDraft();
  const library = useLibrary();

  useKeys((event) => meansSomething(event) && shape(event));
  useUndoKeys(draft);

  function shape(event: KeyboardEvent): boolean {
    const anchor = library.settings.singleKeys ? ANCHOR_KEYS[digitOf(event)] : undefined;
    if (anchor) draft.change({ anchor, offset: { x: 0, y: 0 } });
    else if (event.key.startsWith('Arrow')) draft.change(nudged(draft.rule, event));
    else return act(actionOf(event));
    return true;
  }

  function act(action: KeyAction | null): boolean {
    if (action === 'larger') resize(SIZE_FACTOR);
    else if (action === 'smaller') resize(1 / SIZE_FACTOR);
    else if (action === 'tone') nextTone();
    else if (action === 'opacity') nextOpacity();
    else return false;
    return true;
  }

  function resize(factor: number): void {
    const { basis, value } = draft.rule.size;
    const most = basis === 'pixels' ? SIZE_MAX_PX : SIZE_MAX_PERCENT;
    draft.change({ size: { basis, value: clamp(tidy(value * factor), 0.1, most) } });
  }

  /** Through the fixed tones, then to the one that reads best on each photo, and round again. */
  function nextTone(): void {
    const all = tones();
    const { tone } = draft.rule;
    const next = tone.rule === 'auto' ? all[0] : all[all.indexOf(tone.tone) + 1];
    draft.change({ tone: next ? { rule: 'fixed', tone: next } : DEFAULT_RULE.tone });
  }

  function nextOpacity(): void {
    const lower = OPACITY_STEPS.find((step) => step < mostOpacity(draft.rule) - 0.001);
    draft.change({ opacity: lower ?? OPACITY_STEPS[0] });
  }
}

/** Both the row of digits and the pad, where Shift must not turn them into something else. */
function digitOf(event: KeyboardEvent): string {
  return /^(?:Digit|Numpad)([1-9])$/.exec(event.code)?.[1] ?? '';
}

/** On a held axis an arrow moves the mark by its inset, on a centred one by its offset. */
function nudged(rule: PresetRule, event: KeyboardEvent): Partial<PresetRule> {
  const axis = event.key === 'ArrowLeft' || event.key === 'ArrowRight' ? 'x' : 'y';
  const direction = event.key === 'ArrowRight' || event.key === 'ArrowDown' ? 1 : -1;
  const times = direction * (event.shiftKey ? SHIFT_FACTOR : 1);
  const hold = ANCHOR_HOLDS[rule.anchor][axis];
  if (hold === 'centre') {
    const moved = clamp(tidy(rule.offset[axis] + NUDGE_PERCENT * times), -100, 100);
    return { offset: { ...rule.offset, [axis]: moved } };
  }
  const step = rule.inset.unit === 'percent' ? NUDGE_PERCENT : NUDGE_PX;
  const sign = hold === 'start' ? 1 : -1;
  const most = rule.inset.unit === 'percent' ? 100 : SIZE_MAX_PX;
  const inset = clamp(tidy(rule.inset[axis] + step * times * sign), 0, most);
  return { inset: { ...rule.inset, [axis]: inset } };
}
