import type { ShallowRef } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type { Beside } from '#core/contract/http';
import { without } from '#core/without';
import type { PresetRule } from '#core/contract/preset';
import {
  adjustmentFor,
  tidyAdjustment,
  withAdjustmentFor,
  withoutPart,
  type AdjustedPart,
} from '#core/placement/adjustment';

/** What a photo without an adjustment has; one object, so that it is known by itself. */
export const NOT_ADJUSTED: Adjustment = Object.freeze({});

/**
 * What the bench edits, with one undo for all: a preset, or one that is not saved yet, what photos have of
 * their own, and the marks that are laid over each other.
 */
export interface DraftState {
  readonly markId: number | null;
  readonly rule: PresetRule;
  readonly adjustments: ReadonlyMap<number, Adjustment>;
  readonly beside: Beside;
}

/** What is done to what photos have of their own. */
export function useAdjusting(
  state: ShallowRef<DraftState>,
  /** Of the mark in hand, as photos know it: null is the first. */
  key: () => number | null,
) {
  /** Fallbacks are a rule's alone: a photo adjusted by hand has one place. */
  function adjust(photoIds: readonly number[], part: Adjustment & Partial<PresetRule>): void {
    const { leftOut } = part;
    const changed: Adjustment = without(part, 'leftOut', 'fallbacks', 'upright');
    edit(photoIds, (adjustment) => tidyAdjustment({ ...adjustment, ...changed }));
    if (leftOut) editWhole(photoIds, (adjustment) => ({ ...adjustment, leftOut }));
  }

  /** Takes one part of the adjustment back, or all of it. */
  function takeBack(photoIds: readonly number[], part: AdjustedPart | null = null): void {
    if (part === null) return editWhole(photoIds, () => null);
    if (part === 'left out') return editWhole(photoIds, (whole) => withoutPart(whole, part));
    edit(photoIds, (adjustment) => withoutPart(adjustment, part));
  }

  /** Gives photos the adjustment of another, in place of their own. */
  function copyAdjustment(fromId: number, photoIds: readonly number[]): void {
    const from = state.value.adjustments.get(fromId) ?? null;
    editWhole(
      photoIds.filter((id) => id !== fromId),
      () => from,
    );
  }

  /** What photos have of their own for the mark in hand. */
  function edit(
    photoIds: readonly number[],
    edited: (adjustment: Adjustment) => Adjustment | null,
  ): void {
    const of = key();
    editWhole(photoIds, (whole) => withAdjustmentFor(whole, of, edited(adjustmentFor(whole, of))));
  }

  function editWhole(
    photoIds: readonly number[],
    edited: (adjustment: Adjustment) => Adjustment | null,
  ): void {
    const next = new Map(state.value.adjustments);
    for (const id of photoIds) {
      const adjustment = edited(next.get(id) ?? NOT_ADJUSTED);
      if (adjustment) next.set(id, adjustment);
      else next.delete(id);
    }
    state.value = { ...state.value, adjustments: next };
  }

  return { adjust, takeBack, copyAdjustment };
}
