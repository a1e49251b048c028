import type { DeliveryRule } from '../contract/delivery.ts';
import { sheetCount } from '../sheet/planSheets.ts';

/** Files that a delivery makes of so many photos. */
export function filesOf({ kind, sheet }: DeliveryRule, photos: number): number {
  if (kind === 'files') return photos;
  if (kind === 'show' || sheet.as === 'pdf') return Math.min(1, photos);
  return sheetCount(sheet, photos);
}
