import type { Adjustment } from '../contract/adjustment.ts';
import type { PresetRule } from '../contract/preset.ts';
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

/** What of a photo is of its own, in the order of the bench. */
export function adjustedParts(adjustment: Adjustment | undefined): AdjustedPart[] {
  if (!adjustment) return [];
  return (Object.keys(ADJUSTED_PARTS) as AdjustedPart[]).filter((part) =>
    ADJUSTED_PARTS[part].some((field) => adjustment[field] !== undefined),
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
