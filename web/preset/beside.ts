import { computed, type Ref, type ShallowRef } from 'vue';
import { inOrder } from '#core/batch/benchMarks';
import type { Beside, MarkView, Placing } from '#core/contract/http';
import { MARKS_MAX, type PresetRule } from '#core/contract/preset';
import { adjustmentFor, withAdjustmentFor, withFirst } from '#core/placement/adjustment';
import { isSameValue } from '#core/sameValue';
import { useLibrary } from '../app/library.ts';
import { NOT_ADJUSTED, type DraftState } from './adjusting.ts';

/** A mark of the bench beside the one in hand. */
export interface OtherMark {
  readonly presetId: number;
  readonly name: string;
  readonly mark: MarkView | null;
  readonly rule: PresetRule;
}

/** Presets as they are saved, over one in hand. */
export function laidOver(presetIds: readonly number[]): Beside {
  return { at: 0, marks: presetIds.map((presetId) => ({ presetId, placing: null })) };
}

interface Hand {
  readonly state: ShallowRef<DraftState>;
  readonly presetId: Ref<number | null>;
  /** What is in hand as a batch keeps it. */
  readonly placing: Readonly<Ref<Placing | null>>;
  /** Puts another preset into the hand, with what it holds that is not saved. */
  readonly take: (presetId: number, placing: Placing | null) => void;
}

/** Marks that are laid over each other: one is in hand and is shaped, the others stay as they are. */
export function useBeside({ state, presetId, placing, take }: Hand) {
  const library = useLibrary();
  const marks = computed(() => state.value.beside.marks);

  /** Those whose preset is still there. */
  const others = computed<OtherMark[]>(() =>
    marks.value.flatMap((other) => {
      const preset = library.presetOf(other.presetId);
      if (!preset || preset.id === presetId.value) return [];
      const { markId, rule } = other.placing ?? preset;
      const mark = library.markOf(markId) ?? library.markOf(preset.markId);
      return [{ presetId: preset.id, name: preset.name, mark, rule }];
    }),
  );
  /** Where the one in hand stands; a preset that is not saved is the first. */
  const handAt = computed(() =>
    presetId.value === null ? 0 : Math.min(state.value.beside.at, others.value.length),
  );
  const isFull = computed(() => others.value.length + 1 >= MARKS_MAX);
  /** As a batch keeps it. */
  const beside = computed<Beside>(() => {
    const there = new Set(others.value.map((other) => other.presetId));
    return {
      at: handAt.value,
      marks: marks.value.filter((other) => there.has(other.presetId)),
    };
  });

  /** What a photo has of its own for the mark in hand goes by this; null: it is the first. */
  const handKey = computed(() => (handAt.value === 0 ? null : presetId.value));

  function lay(kept: Beside): void {
    if (isSameValue(kept, state.value.beside)) return;
    state.value = { ...state.value, beside: kept };
  }

  /** Over all that is there. */
  function add(id: number): void {
    if (isFull.value || id === presetId.value || marks.value.some((one) => one.presetId === id)) {
      return;
    }
    lay({ at: handAt.value, marks: [...marks.value, { presetId: id, placing: null }] });
  }

  /** @param index among the others */
  function remove(index: number): void {
    // A second click may come after the first has taken it off.
    const id = others.value[index]?.presetId;
    if (id === undefined) return;
    // With the first gone, what the second has of its own becomes what photos have of the first.
    if (index === 0 && handAt.value > 0) promote(keyOfSecond());
    const place = handAt.value;
    const left = marks.value.filter((other) => other.presetId !== id);
    lay({ at: index < place ? place - 1 : place, marks: left });
  }

  function keyOfSecond(): number | null {
    return handAt.value === 1 ? presetId.value : (others.value[1]?.presetId ?? null);
  }

  function promote(key: number | null): void {
    if (key === null) return;
    const adjustments = new Map(state.value.adjustments);
    for (const [id, adjustment] of adjustments) {
      const own = adjustmentFor(adjustment, key);
      const { leftOut } = adjustment;
      const rest = withAdjustmentFor(adjustment, key, null) ?? NOT_ADJUSTED;
      const next = withAdjustmentFor(rest, null, { ...own, ...(leftOut ? { leftOut } : {}) });
      if (next) adjustments.set(id, next);
      else adjustments.delete(id);
    }
    state.value = { ...state.value, adjustments };
  }

  /** @param index among the others */
  function takeInHand(index: number): void {
    const mine = presetId.value;
    const wanted = others.value[index];
    // One that is not saved has no place to be kept in meanwhile.
    if (mine === null || !wanted) return;
    const all = beside.value.marks;
    const held = { presetId: mine, placing: placing.value };
    const before = inOrder(held, all, handAt.value);
    const place = before.findIndex((one) => one.presetId === wanted.presetId);
    const next = before[place];
    lay({ at: place, marks: before.filter((one) => one !== next) });
    take(wanted.presetId, next.placing);
  }

  /** Lays the mark in hand one lower (-1) or one higher (1). */
  function moveHand(step: -1 | 1): void {
    const place = handAt.value + step;
    const mine = presetId.value;
    if (mine === null || place < 0 || place > others.value.length) return;
    const other = others.value[step < 0 ? place : place - 1].presetId;
    // What photos have of the first is kept apart from what they have of the others.
    if (place === 0) exchangeFirst(other, mine);
    if (handAt.value === 0) exchangeFirst(mine, other);
    lay({ ...beside.value, at: place });
  }

  function exchangeFirst(before: number, now: number): void {
    const adjustments = new Map(state.value.adjustments);
    for (const [id, adjustment] of adjustments) {
      const next = withFirst(adjustment, before, now);
      if (next) adjustments.set(id, next);
      else adjustments.delete(id);
    }
    state.value = { ...state.value, adjustments };
  }

  return { others, handAt, handKey, isFull, beside, lay, add, remove, takeInHand, moveHand };
}
