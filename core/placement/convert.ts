import {
  SIZE_MAX_PERCENT,
  SIZE_MAX_PX,
  type PresetRule,
  type SizeBasis,
} from '../contract/preset.ts';
import type { Size } from './geometry.ts';
import { placeMark } from './placeMark.ts';

/** The same placement in other numbers: nothing of it moves, only what it is measured by changes. */

const MOST_PERCENT = 100;

/** The inset in the other unit, as it is on a frame. */
export function insetInOtherUnit(inset: PresetRule['inset'], frame: Size): PresetRule['inset'] {
  const percent = Math.min(frame.width, frame.height) / 100;
  const toPixels = inset.unit === 'percent';
  const convert = (value: number): number =>
    toPixels
      ? Math.round(value * percent)
      : Math.min(MOST_PERCENT, Math.round((value / percent) * 10) / 10);
  return {
    unit: toPixels ? 'pixels' : 'percent',
    x: convert(inset.x),
    y: convert(inset.y),
  };
}

/** The size by another basis, with the mark as large on a frame as it was. @param least the smallest value */
export function sizeByBasis(
  rule: PresetRule,
  basis: SizeBasis,
  {
    frame,
    aspect,
    least,
  }: { readonly frame: Size; readonly aspect: number; readonly least: number },
): PresetRule['size'] {
  const widthAt = (size: PresetRule['size']): number => {
    const placed = placeMark(frame, aspect, { ...rule, repeat: null, size });
    return placed.ok ? placed.value.copies[0].size.width : 0;
  };
  const trial = basis === 'pixels' ? 100 : 10;
  const now = widthAt(rule.size);
  const tried = widthAt({ basis, value: trial });
  const growth = now > 0 && tried > 0 ? now / tried : 1;
  // Area grows with the square of the width.
  const value = trial * (basis === 'area' ? growth ** 2 : growth);
  const most = basis === 'pixels' ? SIZE_MAX_PX : SIZE_MAX_PERCENT;
  const tidy = basis === 'pixels' ? Math.round(value) : Math.round(value * 10) / 10;
  return { basis, value: Math.min(most, Math.max(least, tidy)) };
}
