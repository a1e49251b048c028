import type { PresetRule, UprightRule } from '../contract/preset.ts';
import type { Size } from './geometry.ts';

/** What of a rule can be otherwise for photos that are taller than wide. */
export const UPRIGHT_FIELDS = [
  'size',
  'anchor',
  'inset',
  'offset',
  'rotation',
] as const satisfies readonly (keyof UprightRule)[];

/** A preset's rule as it is for upright photos; made once for each rule. */
const uprightRules = new WeakMap<PresetRule, PresetRule>();

export function isUpright({ width, height }: Size): boolean {
  return height > width;
}

/** The rule of a preset for a frame: some say otherwise where that is taller than wide. */
export function ruleFor(preset: PresetRule, frame: Size): PresetRule {
  if (!preset.upright || !isUpright(frame)) return preset;
  let rule = uprightRules.get(preset);
  if (!rule) uprightRules.set(preset, (rule = withUpright(preset, preset.upright)));
  return rule;
}

function withUpright(preset: PresetRule, upright: UprightRule): PresetRule {
  const said = Object.entries(upright).filter(([, value]) => value !== undefined);
  return { ...preset, ...(Object.fromEntries(said) as Partial<PresetRule>) };
}

/** A rule with a change that is meant for upright photos: what they cannot have of their own is for all. */
export function changedUpright(rule: PresetRule, part: Partial<PresetRule>): PresetRule {
  const own: Record<string, unknown> = {};
  const shared: Record<string, unknown> = {};
  for (const [field, value] of Object.entries(part)) {
    const isOwn = (UPRIGHT_FIELDS as readonly string[]).includes(field);
    (isOwn ? own : shared)[field] = value;
  }
  const isChanged = Object.keys(own).length > 0;
  const after = { ...rule, ...(shared as Partial<PresetRule>) };
  return isChanged ? { ...after, upright: { ...rule.upright, ...(own as UprightRule) } } : after;
}
