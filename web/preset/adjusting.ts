import type { ShallowRef } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import { tidyAdjustment, withoutPart, type AdjustedPart } from '#core/placement/adjustment';

/** What a photo without an adjustment has; one object, so that it is known by itself. */
export const NOT_ADJUSTED: Adjustment = Object.freeze({});
/** What the bench edits: a preset, or one that is not saved yet, and what photos have of their own. */
export interface DraftState {
  readonly markId: number | null;
  readonly rule: PresetRule;
  readonly adjustments: ReadonlyMap<number, Adjustment>;
}

/** What is done to what photos have of their own. */
export function useAdjusting(state: ShallowRef<DraftState>) {
  /** Fallbacks are a rule's alone: a photo adjusted by hand has one place. */
  function adjust(photoIds: readonly number[], part: Adjustment & Partial<PresetRule>): void {
    const own = Object.entries(part).filter(([field]) => field !== 'fallbacks');
    const changed: Adjustment = Object.fromEntries(own);
    edit(photoIds, (adjustment) => tidyAdjustment({ ...adjustment, ...changed }));
  }

  /** Takes one part of the adjustment back, or all of it. */
  function takeBack(photoIds: readonly number[], part: AdjustedPart | null = null): void {
    edit(photoIds, (adjustment) => (part ? withoutPart(adjustment, part) : null));
  }

  /** Gives photos the adjustment of another, in place of their own. */
  function copyAdjustment(fromId: number, photoIds: readonly number[]): void {
    const from = state.value.adjustments.get(fromId) ?? null;
    edit(
      photoIds.filter((id) => id !== fromId),
      () => from,
    );
  }

  function edit(
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
