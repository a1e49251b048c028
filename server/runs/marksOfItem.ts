import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import { adjustmentFor } from '#core/placement/adjustment';
import type { NewItem, OwnPreset } from '../db/runItemRows.ts';
import type { NewRun } from '../db/runs.ts';

/** A mark of an output. */
export interface ItemMark {
  readonly rule: PresetRule;
  readonly markId: number;
  readonly markVersion: number;
  readonly adjustment: Adjustment;
}

/** The marks of an output, the lowest first. */
export function marksOfItem(
  run: Pick<NewRun, 'rule' | 'markId' | 'markVersion' | 'over'>,
  { own, adjustment, over }: Pick<NewItem, 'own' | 'adjustment' | 'over'>,
): ItemMark[] {
  const first = itemMark(own ?? run, adjustmentFor(adjustment, null));
  const others = over
    ? over.map((mark) => itemMark(mark, {}))
    : run.over.map((mark) => itemMark(mark, adjustmentFor(adjustment, mark.presetId)));
  return [first, ...others];
}

function itemMark(
  { rule, markId, markVersion }: Omit<OwnPreset, 'presetName'>,
  adjustment: Adjustment,
): ItemMark {
  return { rule, markId, markVersion, adjustment };
}
