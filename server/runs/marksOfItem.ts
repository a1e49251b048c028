import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import { adjustmentFor } from '#core/placement/adjustment';
import type { NewItem } from '../db/runItems.ts';
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
  { own, adjustment, isAlone }: Pick<NewItem, 'own' | 'adjustment' | 'isAlone'>,
): ItemMark[] {
  const { rule, markId, markVersion } = own ?? run;
  const first = { rule, markId, markVersion, adjustment: adjustmentFor(adjustment, null) };
  if (isAlone) return [first];
  const over = run.over.map((mark) => ({
    ...{ rule: mark.rule, markId: mark.markId, markVersion: mark.markVersion },
    adjustment: adjustmentFor(adjustment, mark.presetId),
  }));
  return [first, ...over];
}
