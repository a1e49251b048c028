import {
  NAME_MAX_LENGTH,
  type Anchor,
  type PresetRule,
  type SizeRule,
  type ToneChoice,
} from '../contract/preset.ts';
import { allowedTones } from '../readability/choice.ts';

/** A preset's name should say what it is: mark, place, tone, size. */

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

/** @param toneName a name for a colour, such as the palette has */
export function suggestName(
  markName: string,
  rule: PresetRule,
  toneName: (tone: ToneChoice) => string = (tone) => tone,
): string {
  const place = rule.repeat ? 'all over' : ANCHOR_WORDS[rule.anchor];
  const tones = allowedTones(rule).map(toneName).join(' or ');
  const tail = `, ${[place, tones, sizeWords(rule.size)].join(', ')}`;
  const room = Math.max(1, NAME_MAX_LENGTH - tail.length);
  return (markName.slice(0, room) + tail).slice(0, NAME_MAX_LENGTH);
}

/** A size in words, such as "14 % of the long side". */
export function sizeWords({ basis, value }: SizeRule): string {
  switch (basis) {
    case 'pixels':
      return `${value} px wide`;
    case 'contain':
      return `within ${value} %`;
    case 'cover':
      return `covering ${value} %`;
    case 'long-side':
    case 'short-side':
    case 'width':
    case 'height':
    case 'area':
      return `${value} % of the ${basis.replace('-', ' ')}`;
    default:
      throw new Error(`Unknown size basis ${basis satisfies never}`);
  }
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
