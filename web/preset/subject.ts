import type { Adjustment } from '#core/contract/adjustment';
import type { MarkView } from '#core/contract/http';
import type { PresetRule } from '#core/contract/preset';
import { photoRule } from '#core/placement/adjustment';
import type { Size } from '#core/placement/geometry';

/** How one photo is marked, or photos of one shape. */
export interface Subject {
  readonly mark: MarkView | null;
  /** Its preset's, before the adjustment. */
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  /** Of the photo: presets may say otherwise for upright ones. */
  readonly shape: Size;
}

/** Stand for photos of a shape, where none is named. */
export const LYING: Size = Object.freeze({ width: 3, height: 2 });
export const UPRIGHT: Size = Object.freeze({ width: 2, height: 3 });

/** The rule that a subject comes to. */
export function subjectRule({ rule, adjustment, shape }: Subject): PresetRule {
  return photoRule(rule, adjustment, shape);
}
