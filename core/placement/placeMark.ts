import type { Adjustment, Stamp } from '../contract/adjustment.ts';
import type { Blend, PresetRule, ToneChoice } from '../contract/preset.ts';
import { firstChoice, type Choice, type Rescue } from '../readability/choice.ts';
import { failure, success, type Result } from '../result.ts';
import { photoRule } from './adjustment.ts';
import { ANCHOR_HOLDS, heldAt } from './anchor.ts';
import {
  boxAround,
  centreOf,
  clamp,
  rotatedSize,
  scaled,
  type Box,
  type Point,
  type Size,
} from './geometry.ts';
import { repeatCentres } from './repeat.ts';
import { wantedSize } from './size.ts';

/** One drawn copy of the mark on one photo. */
export interface Copy {
  /** The upright rectangle round the rotated ink box, in pixels of the output frame. */
  readonly box: Box;
  /** The ink box before rotation. */
  readonly size: Size;
  /** Degrees clockwise about the centre of `box`. */
  readonly rotation: number;
}

/** Where and how a mark sits on one photo. */
export interface Placement {
  readonly copies: readonly Copy[];
  readonly anchor: PresetRule['anchor'];
  /** True where the mark was made smaller than the rule asks, to fit into the frame. */
  readonly reduced: boolean;
  /** 0 to 1, multiplies the mark's alpha. */
  readonly opacity: number;
  readonly blend: Blend;
  readonly tone: ToneChoice;
  /** Help under the mark where it would not be clear without. */
  readonly rescue: Rescue | null;
}

const PERCENT = 100;

/** Where insets leave nothing, this much of the mark's box (px) is kept, so it never vanishes. */
const SMALLEST_BOX_PX = 1;

/** Rounding noise below this share of the size is not a reduction. */
const FIT_TOLERANCE = 1e-9;

/**
 * The placement of a mark on a photo (contract, section 1). The live preview, the export and the
 * command line all call this and nothing else.
 *
 * @param frame the *output* frame: the photo turned upright and resized, whole pixels, at least 1
 * @param aspect width / height of the mark's ink box, finite and above 0
 * @param chosen tone, anchor and rescue, where the rule leaves them to readability; without it what
 *   the rule names first
 * @returns the placement, or why there is none (a repeat of too many copies)
 */
export function placeMark(
  frame: Size,
  aspect: number,
  preset: PresetRule,
  adjustment: Adjustment = {},
  chosen: Choice | null = null,
): Result<Placement> {
  if (!(frame.width >= 1 && frame.height >= 1)) {
    return failure(
      `Expected a frame of at least 1 × 1 px, found ${frame.width} × ${frame.height}.`,
    );
  }
  if (!(aspect > 0 && Number.isFinite(aspect))) {
    return failure(`Expected a mark with an aspect above 0, found ${aspect}.`);
  }
  const adjusted = photoRule(preset, adjustment, frame);
  const choice = chosen ?? firstChoice(adjusted);
  const { anchor } = choice;
  const rule = anchor === adjusted.anchor ? adjusted : { ...adjusted, anchor };
  const inset = insetPx(frame, rule);
  const wanted = wantedSize(frame, aspect, rule.size, rule.rotation);
  const exempt = rule.size.basis === 'cover' || rule.repeat !== null;
  const factor = exempt ? 1 : fitFactor(frame, rotatedSize(wanted, rule.rotation), rule, inset);
  const size = factor < 1 ? scaled(wanted, factor) : wanted;
  const box = rotatedSize(size, rule.rotation);
  const origin = anchoredCentre(frame, box, rule, inset, exempt);

  const centres = rule.repeat
    ? repeatCentres(frame, size, box, origin, rule.repeat)
    : success([origin]);
  if (!centres.ok) return centres;
  const copies = centres.value.map((centre) => ({
    box: boxAround(centre, box),
    size,
    rotation: rule.rotation,
  }));
  const stamps = adjustment.stamps?.map((stamp) => stamped(frame, size, stamp)) ?? [];
  return success({
    copies: [...copies, ...stamps],
    anchor: rule.anchor,
    reduced: factor < 1,
    // What was chosen comes after what was asked: a hand may have moved on.
    opacity: typeof rule.opacity === 'number' ? rule.opacity : choice.opacity,
    blend: rule.blend,
    tone: choice.tone,
    rescue: choice.rescue,
  });
}

function stamped(frame: Size, mark: Size, { x, y, scale, rotation }: Stamp): Copy {
  const size = scaled(mark, scale);
  const centre = { x: x * frame.width, y: y * frame.height };
  return { box: boxAround(centre, rotatedSize(size, rotation)), size, rotation };
}

/** The inset in pixels; percent is of the short side for both directions. */
export function insetPx(frame: Size, rule: Pick<PresetRule, 'inset'>): Point {
  if (rule.inset.unit === 'pixels') return { x: rule.inset.x, y: rule.inset.y };
  const onePercent = Math.min(frame.width, frame.height) / PERCENT;
  return { x: rule.inset.x * onePercent, y: rule.inset.y * onePercent };
}

function fitFactor(frame: Size, box: Size, rule: PresetRule, inset: Point): number {
  const holds = ANCHOR_HOLDS[rule.anchor];
  const roomX = frame.width - (holds.x === 'centre' ? 0 : inset.x);
  const roomY = frame.height - (holds.y === 'centre' ? 0 : inset.y);
  const factor = Math.min(
    Math.max(roomX, SMALLEST_BOX_PX) / box.width,
    Math.max(roomY, SMALLEST_BOX_PX) / box.height,
  );
  return factor < 1 - FIT_TOLERANCE ? factor : 1;
}

function anchoredCentre(
  frame: Size,
  box: Size,
  rule: PresetRule,
  inset: Point,
  exempt: boolean,
): Point {
  const holds = ANCHOR_HOLDS[rule.anchor];
  let x = heldAt(holds.x, frame.width, box.width, inset.x);
  let y = heldAt(holds.y, frame.height, box.height, inset.y);
  if (!exempt) {
    // Only an inset that leaves less than the smallest box can still push the mark out.
    x = clamp(x, 0, Math.max(0, frame.width - box.width));
    y = clamp(y, 0, Math.max(0, frame.height - box.height));
  }
  const onePercent = Math.min(frame.width, frame.height) / PERCENT;
  const centre = centreOf({ x, y, ...box });
  return {
    x: centre.x + rule.offset.x * onePercent,
    y: centre.y + rule.offset.y * onePercent,
  };
}
