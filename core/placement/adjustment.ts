import type { Adjustment } from '../contract/adjustment.ts';
import type { PresetRule } from '../contract/preset.ts';
import { without } from '../without.ts';
import type { Size } from './geometry.ts';
import { ruleFor } from './uprightRule.ts';

/** Fields of a rule, as a photo can have them of its own. */
const RULE_FIELDS = [
  'tone',
  'size',
  'anchor',
  'inset',
  'offset',
  'rotation',
  'opacity',
  'blend',
  'repeat',
  'rescue',
] as const satisfies readonly (keyof PresetRule & keyof Adjustment)[];

/** Fields that belong together for whoever takes a change back. */
export const ADJUSTED_PARTS = {
  preset: ['presetId'],
  place: ['anchor', 'inset', 'offset'],
  size: ['size'],
  angle: ['rotation'],
  tone: ['tone'],
  opacity: ['opacity'],
  blend: ['blend'],
  repeat: ['repeat'],
  rescue: ['rescue'],
  stamps: ['stamps'],
  'left out': ['leftOut'],
} as const satisfies Readonly<Record<string, readonly (keyof Adjustment)[]>>;

export type AdjustedPart = keyof typeof ADJUSTED_PARTS;

/**
 * The rule of a photo: its preset's for its frame, with what was changed for it by hand. A place that was chosen
 * by hand is final, so the preset's fallback anchors are not tried for it.
 */
export function photoRule(preset: PresetRule, adjustment: Adjustment, frame: Size): PresetRule {
  const own = ruleFor(preset, frame);
  if (Object.keys(adjustment).length === 0) return own;
  const rule = { ...own };
  for (const field of RULE_FIELDS) {
    if (adjustment[field] !== undefined) Object.assign(rule, { [field]: adjustment[field] });
  }
  if (isPlaced(adjustment)) rule.fallbacks = [];
  return rule;
}

function isPlaced(adjustment: Adjustment): boolean {
  return ADJUSTED_PARTS.place.some((field) => adjustment[field] !== undefined);
}

const NOTHING: Adjustment = Object.freeze({});

/**
 * What a photo has of its own for one of its marks.
 *
 * @param presetId of a mark over the first; null: the first
 */
export function adjustmentFor(adjustment: Adjustment, presetId: number | null): Adjustment {
  if (presetId !== null) return adjustment.over?.[presetId] ?? NOTHING;
  if (!adjustment.over) return adjustment;
  return without(adjustment, 'over');
}

/** The adjustment with another one for one of its marks; null where nothing is left. */
export function withAdjustmentFor(
  adjustment: Adjustment,
  presetId: number | null,
  own: Adjustment | null,
): Adjustment | null {
  const { over } = adjustment;
  if (presetId === null) return tidyAdjustment({ ...own, ...(over ? { over } : {}) });
  const others = Object.entries(over ?? {}).filter(([id]) => id !== String(presetId));
  // What only a whole photo can have is not a mark's.
  const of = without(own ?? NOTHING, 'leftOut', 'presetId', 'over');
  const next = Object.keys(of).length > 0 ? [...others, [String(presetId), of] as const] : others;
  const rest = without(adjustment, 'over');
  return tidyAdjustment(next.length > 0 ? { ...rest, over: Object.fromEntries(next) } : rest);
}

/**
 * The adjustment where another of the marks comes to be the first: what the photo has of each stays with it,
 * and what is of the whole photo with the photo. Null where nothing is left.
 *
 * @param before preset of the first until now
 * @param now preset of the first from now on
 */
export function withFirst(adjustment: Adjustment, before: number, now: number): Adjustment | null {
  const { leftOut, presetId } = adjustment;
  const whole = {
    ...(leftOut === undefined ? {} : { leftOut }),
    ...(presetId === undefined ? {} : { presetId }),
  };
  const first = adjustmentFor(adjustment, null);
  const next = { ...adjustmentFor(adjustment, now), ...whole };
  const others = withAdjustmentFor(adjustment, now, null) ?? NOTHING;
  const turned = withAdjustmentFor(others, null, next) ?? NOTHING;
  return withAdjustmentFor(turned, before, first);
}

/** What of a photo is of its own, of any of its marks, in the order of the bench. */
export function adjustedParts(adjustment: Adjustment | undefined): AdjustedPart[] {
  if (!adjustment) return [];
  const all: Adjustment[] = [adjustment, ...Object.values(adjustment.over ?? {})];
  return (Object.keys(ADJUSTED_PARTS) as AdjustedPart[]).filter((part) =>
    ADJUSTED_PARTS[part].some((field) => all.some((one) => one[field] !== undefined)),
  );
}

/** The adjustment without one part; null where nothing is left of it. */
export function withoutPart(adjustment: Adjustment, part: AdjustedPart): Adjustment | null {
  const taken = new Set<string>(ADJUSTED_PARTS[part]);
  return tidyAdjustment(
    Object.fromEntries(Object.entries(adjustment).filter(([field]) => !taken.has(field))),
  );
}

/** Without fields that say nothing; null where nothing is left. */
export function tidyAdjustment(adjustment: Adjustment): Adjustment | null {
  const said = Object.entries(adjustment).filter(
    ([, value]) => value !== undefined && !(Array.isArray(value) && value.length === 0),
  );
  return said.length > 0 ? Object.fromEntries(said) : null;
}
