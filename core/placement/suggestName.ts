import { NAME_MAX_LENGTH, type Anchor, type PresetRule } from '../contract/preset.ts';

/** A preset's name should say what it is: mark, place, tone. */

export const ANCHOR_WORDS: Readonly<Record<Anchor, string>> = Object.freeze({
  'top-left': 'high left',
  top: 'high',
  'top-right': 'high right',
  left: 'left',
  centre: 'centred',
  right: 'right',
  'bottom-left': 'low left',
  bottom: 'low',
  'bottom-right': 'low right',
});

export function suggestName(markName: string, rule: PresetRule): string {
  const place = rule.repeat ? 'all over' : ANCHOR_WORDS[rule.anchor];
  const name = [markName, place, rule.tone.tone].join(', ');
  return name.slice(0, NAME_MAX_LENGTH);
}

/** A name with something behind it, cut in the middle where it would be too long. */
export function withSuffix(name: string, suffix: string): string {
  return name.slice(0, NAME_MAX_LENGTH - suffix.length) + suffix;
}

/** `name`, or with a number behind it where that name is taken. */
export function freeName(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  for (let count = 2; ; count++) {
    const numbered = withSuffix(name, ` ${count}`);
    if (!taken.includes(numbered)) return numbered;
  }
}
