import { ANCHORS, type PresetRule } from '../contract/preset.ts';
import { ESTIMATE, ESTIMATE_NUMBERS, inkLightnessOf } from './batchEstimate.ts';
import { allowedTones, rescueColour, type Choice } from './choice.ts';
import type { HardFacts } from './hardPhotos.ts';
import { classOf, type ReadabilityClass } from './measure.ts';
import type { Box, Size } from '../placement/geometry.ts';

/** What the numbers of a batch estimate say, photo by photo and of all. */

/** How the mark reads on a photo, as far as it is known. */
export interface PhotoReading {
  readonly choice: Choice;
  /** Null where nothing of the mark lies on the photo. */
  readonly class: ReadabilityClass | null;
  readonly share: number;
  readonly contrast: number;
  /** Share that reads of the part of the mark that reads worst. */
  readonly weakest: number;
  /** Where that part lies, in shares of the frame; null where it is not known, or the mark has one part. */
  readonly weakestBox: Box | null;
  readonly bustle: number;
  /** It says words of the photo and nothing else, and the photo has none. */
  readonly isEmpty: boolean;
  /** Measured by the definition; else estimated from the light map. */
  readonly isMeasured: boolean;
  /** Why it could not be measured. */
  readonly problem: string | null;
}

/** Colour that stands for a mark's own, for the look of an estimated rescue alone. */
const MIDDLE_INK = [90, 90, 90] as const;

/** Null where the photo at that place is not estimated yet. */
export function estimatedReading(
  numbers: Float32Array,
  place: number,
  rule: PresetRule,
): PhotoReading | null {
  const at = place * ESTIMATE_NUMBERS;
  const share = numbers[at + ESTIMATE.share];
  if (Number.isNaN(share)) return null;
  const weakest = numbers[at + ESTIMATE.weakest];
  const tones = allowedTones(rule);
  const tone = tones[numbers[at + ESTIMATE.tone]] ?? tones[0];
  const strength = numbers[at + ESTIMATE.rescue];
  const colour = rescueColour(inkLightnessOf(tone, MIDDLE_INK));
  const kind = strength > 0 && rule.rescue !== 'none' ? rule.rescue : null;
  return {
    choice: {
      anchor: ANCHORS[numbers[at + ESTIMATE.anchor]],
      tone,
      rescue: kind && { kind, strength, colour },
      opacity: estimatedOpacity(numbers, place),
    },
    class: share < 0 ? null : classOf(share, weakest),
    share: Math.max(0, share),
    ...{ weakest, weakestBox: null },
    contrast: numbers[at + ESTIMATE.contrast],
    bustle: numbers[at + ESTIMATE.bustle],
    ...{ isEmpty: false, isMeasured: false, problem: null },
  };
}

/** Share of a photo's ink that reads: −1 where nothing lies on it, NaN where nothing is known. */
export function estimatedShare(numbers: Float32Array | null, place: number | undefined): number {
  if (!numbers || place === undefined) return NaN;
  return numbers[place * ESTIMATE_NUMBERS + ESTIMATE.share];
}

/** How strong the mark is drawn on a photo; NaN where nothing is known. */
export function estimatedOpacity(numbers: Float32Array | null, place: number | undefined): number {
  if (!numbers || place === undefined) return NaN;
  const opacity = numbers[place * ESTIMATE_NUMBERS + ESTIMATE.opacity];
  // As it was before it became a number of 32 bits.
  return Number(opacity.toFixed(4));
}

/** Null while it is not estimated; where nothing of the mark lies on the photo it is lost. */
export function estimatedClass(
  numbers: Float32Array | null,
  place: number | undefined,
): ReadabilityClass | null {
  const share = estimatedShare(numbers, place);
  if (Number.isNaN(share) || !numbers || place === undefined) return null;
  return classOf(share, numbers[place * ESTIMATE_NUMBERS + ESTIMATE.weakest]);
}

export type ReadingCounts = Readonly<Record<ReadabilityClass, number>>;

/**
 * On how many photos the mark is clear, faint and lost.
 *
 * @param classes by photo; null where nothing is known
 * @param isCounted whether the photo at an index counts
 */
export function countReadings(
  classes: readonly (ReadabilityClass | null)[],
  isCounted: (index: number) => boolean,
): ReadingCounts {
  const counts = { clear: 0, faint: 0, lost: 0 };
  classes.forEach((known, index) => {
    if (known && isCounted(index)) counts[known]++;
  });
  return counts;
}

/** Mean share of a frame that can be cropped free of the mark, and the largest; null while unknown. */
export function cleanCropsOf(
  numbers: Float32Array | null,
): { readonly mean: number; readonly most: number } | null {
  if (!numbers) return null;
  const crops: number[] = [];
  for (let at = 0; at < numbers.length; at += ESTIMATE_NUMBERS) {
    if (!Number.isNaN(numbers[at + ESTIMATE.share])) crops.push(numbers[at + ESTIMATE.cleanCrop]);
  }
  if (crops.length === 0) return null;
  const mean = crops.reduce((sum, crop) => sum + crop, 0) / crops.length;
  return { mean, most: crops.reduce((most, crop) => Math.max(most, crop), 0) };
}

/** What makes a photo hard; null while it is not estimated, or where nothing of the mark lies on it. */
export function hardFactsOf(
  numbers: Float32Array | null,
  place: number | undefined,
  { id, width, height }: Size & { readonly id: number },
): HardFacts | null {
  // Neither while that is not a number.
  if (!numbers || place === undefined || !(estimatedShare(numbers, place) >= 0)) return null;
  const at = place * ESTIMATE_NUMBERS;
  const lightness = numbers[at + ESTIMATE.lightness];
  return { id, aspect: width / height, lightness, bustle: numbers[at + ESTIMATE.bustle] };
}
