import { computed, type ComputedRef } from 'vue';
import type { MarkView } from '#core/contract/http';
import type { PresetRule } from '#core/contract/preset';
import type { ResizeRule } from '#core/contract/delivery';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { PhotoWords } from '#core/lettering/words';
import type { Size } from '#core/placement/geometry';
import type { Adjustment } from '#core/contract/adjustment';
import { placeMark, type Placement } from '#core/placement/placeMark';
import type { Choice } from '#core/readability/choice';
import { aspectOf } from '../mark/markPicture.ts';

/** A mark on one photo, in pixels of the output frame. */
export interface Placed {
  readonly frame: Size;
  readonly placement: Placement | null;
  /** Why there is no placement. */
  readonly problem: string | null;
}

export function placed(
  photo: Size,
  mark: MarkView | null,
  rule: PresetRule,
  resize: ResizeRule | null,
  own: {
    readonly adjustment?: Adjustment;
    readonly choice?: Choice | null;
    /** Of the photo, for a mark that holds some. */
    readonly words?: PhotoWords | null;
  } = {},
): Placed {
  const frame = resizeFrame(photo, resize);
  if (!mark) return { frame, placement: null, problem: null };
  const result = placeMark(frame, aspectOf(mark, own.words), rule, own.adjustment, own.choice);
  return result.ok
    ? { frame, placement: result.value, problem: null }
    : { frame, placement: null, problem: result.reason };
}

/** The placement follows whatever it is made of. */
export function usePlacing(
  photo: () => Size,
  mark: () => MarkView | null,
  rule: () => PresetRule,
  resize: () => ResizeRule | null,
): ComputedRef<Placed> {
  return computed(() => placed(photo(), mark(), rule(), resize()));
}
