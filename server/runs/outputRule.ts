import type { DeliveryRule } from '#core/contract/delivery';
import { success, type Result } from '#core/result';
import { preparation, type PreparedPart } from '#core/sheet/photoOnSheet';
import { photosASheet } from '#core/sheet/planSheets';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { deliveryOf } from './runNames.ts';

/** How a photo of a run is rendered. */
export interface OutputRule {
  readonly rule: DeliveryRule;
  /** For a sheet. */
  readonly prepared?: PreparedPart;
}

/** Where the mark stands still on the screen, a photo of a show has none. */
export function ruleOfPhoto(rule: DeliveryRule): DeliveryRule {
  return { ...rule, mark: rule.mark && !(rule.kind === 'show' && rule.show.mark_on === 'screen') };
}

/** What of a delivery counts for one of its photos: for a sheet, what its place there asks for. */
export function outputRule(
  run: Pick<RunRow, 'id' | 'deliveries'>,
  item: Pick<RunItemRow, 'delivery' | 'number' | 'width' | 'height'>,
  { items }: Pick<Tables, 'items'>,
): Result<OutputRule> {
  const { rule } = deliveryOf(run, item);
  if (rule.kind !== 'sheet') return success({ rule: ruleOfPhoto(rule) });
  const index = item.number - 1;
  const first = index - (index % photosASheet(rule.sheet));
  const leader = first === index ? null : items.sizeOfNumber(run.id, first + 1);
  const size = { width: item.width, height: item.height };
  return preparation(rule, size, index, leader ?? size);
}
