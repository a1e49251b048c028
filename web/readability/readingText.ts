import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule, ToneChoice } from '#core/contract/preset';
import { adjustedRule } from '#core/placement/adjustment';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { allowedTones, type Choice } from '#core/readability/choice';
import type { ReadabilityClass } from '#core/readability/measure';

/** What is known of how a mark reads, in words. */

export const CLASS_WORDS: Readonly<Record<ReadabilityClass, string>> = Object.freeze({
  clear: 'Clear',
  faint: 'Faint',
  lost: 'Lost',
});

export function percentText(share: number): string {
  return `${Math.round(share * 100)} %`;
}

/** Above this standard deviation of L* a ground is busy, and above that restless. */
const BUSY_FROM = 6;
const RESTLESS_FROM = 12;

export function groundWords(bustle: number): string {
  if (bustle >= RESTLESS_FROM) return 'restless';
  return bustle >= BUSY_FROM ? 'busy' : 'calm';
}

/** Which tone a photo got, and why. */
export function toneSentence(
  choice: Choice,
  rule: PresetRule,
  adjustment: Adjustment,
  nameOf: (tone: ToneChoice) => string,
): string {
  const name = nameOf(choice.tone);
  if (adjustment.tone?.rule === 'fixed') return `${name}, set for this photo.`;
  const others = allowedTones(adjustedRule(rule, adjustment)).filter(
    (tone) => tone !== choice.tone,
  );
  if (others.length === 0) return `${name}, as the preset says.`;
  return `${name}: it reads better here than ${others.map(nameOf).join(' or ').toLowerCase()}.`;
}

/** Why the mark is where it is, where that is not simply the preset's place. */
export function placeSentence(choice: Choice, rule: PresetRule, adjustment: Adjustment): string {
  const own = adjustedRule(rule, adjustment).anchor;
  if (choice.anchor === own) return '';
  return `Moved ${ANCHOR_WORDS[choice.anchor]}, since ${ANCHOR_WORDS[own]} would not be clear.`;
}

export function rescueSentence({ rescue }: Choice): string {
  if (!rescue) return '';
  return `Helped by a ${rescue.kind} at ${percentText(rescue.strength)}, no stronger than needed.`;
}
