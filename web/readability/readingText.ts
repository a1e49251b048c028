import type { ToneChoice } from '#core/contract/preset';
import { centreOf, clamp, type Box, type Size } from '#core/placement/geometry';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { allowedTones, type Choice } from '#core/readability/choice';
import type { ReadabilityClass } from '#core/readability/measure';
import type { PhotoReading } from '#core/readability/estimates';
import { subjectRule, type Subject } from '../preset/subject.ts';

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
  subject: Subject,
  nameOf: (tone: ToneChoice) => string,
): string {
  const name = nameOf(choice.tone);
  if (subject.adjustment.tone?.rule === 'fixed') return `${name}, set for this photo.`;
  const others = allowedTones(subjectRule(subject)).filter((tone) => tone !== choice.tone);
  if (others.length === 0) return `${name}, as the preset says.`;
  return `${name}: it reads better here than ${others.map(nameOf).join(' or ').toLowerCase()}.`;
}

/** Why the mark is where it is, where that is not simply the preset's place. */
export function placeSentence(choice: Choice, subject: Subject): string {
  const own = subjectRule(subject).anchor;
  if (choice.anchor === own) return '';
  return `Moved ${ANCHOR_WORDS[choice.anchor]}, since ${ANCHOR_WORDS[own]} would not be clear.`;
}

export function rescueSentence({ rescue }: Choice): string {
  if (!rescue) return '';
  return `Helped by a ${rescue.kind} at ${percentText(rescue.strength)}, no stronger than needed.`;
}

/** The opacity that a quiet rule came to, or what keeps it from being one. */
export function opacitySentence(choice: Choice, subject: Subject): string {
  const { opacity } = subjectRule(subject);
  if (typeof opacity === 'number') return '';
  const found = percentText(choice.opacity);
  if (choice.opacity < opacity.most) return `${found} strong: as quiet as it reads here.`;
  return `${found} strong, the most it may be.`;
}

/** Middle thirds of a mark's own box, by where the middle of a part of it lies. */
const SIDES = [
  ['upper left', 'upper', 'upper right'],
  ['left', 'middle', 'right'],
  ['lower left', 'lower', 'lower right'],
] as const;
/** A mark this much wider than high, or higher than wide, has sides along one way alone. */
const LONG_ASPECT = 2.5;

/**
 * Which part of a mark does not read, where that is what keeps it from being clear.
 *
 * @param copy the upright box of the mark on the photo, shares of the frame
 */
export function partSentence(
  { class: kind, weakest, weakestBox }: Pick<PhotoReading, 'class' | 'weakest' | 'weakestBox'>,
  copy: Box | null,
  frame: Size,
): string {
  if (kind !== 'faint' || !weakestBox || !copy) return '';
  const along = (at: number, from: number, length: number): number =>
    clamp(Math.floor(((at - from) / length) * 3), 0, 2);
  const aspect = (copy.width * frame.width) / (copy.height * frame.height);
  const x = aspect < 1 / LONG_ASPECT ? 1 : along(centreOf(weakestBox).x, copy.x, copy.width);
  const y = aspect > LONG_ASPECT ? 1 : along(centreOf(weakestBox).y, copy.y, copy.height);
  return `The ${SIDES[y][x]} part of it is the faintest: ${percentText(weakest)} of that reads.`;
}
