import { describe, expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { ESTIMATE, ESTIMATE_NUMBERS } from './batchEstimate.ts';
import {
  cleanCropsOf,
  countReadings,
  estimatedClass,
  estimatedReading,
  estimatedShare,
  hardFactsOf,
} from './estimates.ts';

/** Three photos: one that is clear with a rescue, one with nothing of the mark on it, one unknown. */
const numbers = new Float32Array(3 * ESTIMATE_NUMBERS).fill(NaN);
const set = (place: number, values: Partial<Record<keyof typeof ESTIMATE, number>>): void => {
  for (const [key, value] of Object.entries(values))
    numbers[place * ESTIMATE_NUMBERS + ESTIMATE[key as keyof typeof ESTIMATE]] = value;
};
set(0, { share: 0.95, tone: 1, anchor: 8, rescue: 0.5, contrast: 40, bustle: 6, cleanCrop: 0.8 });
set(0, { lightness: 30, weakest: 0.9, opacity: 0.4 });
set(1, { share: -1, tone: 0, anchor: 0, rescue: 0, contrast: 0, bustle: 2, cleanCrop: 0.9 });
const rule = presetRuleSchema.parse({
  tone: { rule: 'auto', among: ['light', 'dark'] },
  rescue: 'halo',
});

describe('an estimate', () => {
  it('names tone, place, rescue and class', () => {
    const reading = estimatedReading(numbers, 0, rule);
    expect(reading).toMatchObject({ class: 'clear', isMeasured: false, contrast: 40 });
    expect(reading?.choice.tone).toBe('dark');
    expect(reading?.choice.opacity).toBeCloseTo(0.4, 6);
    expect(reading?.choice.rescue).toMatchObject({ kind: 'halo', strength: 0.5 });
  });

  it('rescues nothing where the rule does not ask for it', () => {
    expect(estimatedReading(numbers, 0, { ...rule, rescue: 'none' })?.choice.rescue).toBeNull();
  });

  it('has no class where nothing of the mark lies on the photo, and is null while unknown', () => {
    expect(estimatedReading(numbers, 1, rule)).toMatchObject({ class: null, share: 0 });
    expect(estimatedReading(numbers, 2, rule)).toBeNull();
    expect([estimatedShare(numbers, 1), estimatedShare(null, 0)]).toEqual([-1, NaN]);
    expect([0, 1, 2].map((place) => estimatedClass(numbers, place))).toEqual([
      'clear',
      'lost',
      null,
    ]);
  });

  it('is faint where a part of the mark does not read', () => {
    const weak = numbers.slice();
    weak[ESTIMATE.weakest] = 0.7;
    expect(estimatedReading(weak, 0, rule)?.class).toBe('faint');
    expect(estimatedClass(weak, 0)).toBe('faint');
  });
});

it('means over what is known alone', () => {
  const crops = cleanCropsOf(numbers);
  expect(crops?.mean).toBeCloseTo(0.85, 5);
  expect(crops?.most).toBeCloseTo(0.9, 5);
  expect(cleanCropsOf(new Float32Array(ESTIMATE_NUMBERS).fill(NaN))).toBeNull();
});

it('tells what is hard about a photo, once it is estimated', () => {
  const photo = { id: 7, width: 300, height: 200 };
  expect(hardFactsOf(numbers, 0, photo)).toEqual({ id: 7, aspect: 1.5, lightness: 30, bustle: 6 });
  expect(hardFactsOf(numbers, 2, photo)).toBeNull();
  expect(hardFactsOf(numbers, undefined, photo)).toBeNull();
  // Beside the photo there is no ground to be hard.
  const beside = Float32Array.from(numbers);
  beside[ESTIMATE.share] = -1;
  expect(hardFactsOf(beside, 0, photo)).toBeNull();
});

it('counts what is known and asked for', () => {
  const classes = ['clear', 'faint', 'lost', null, 'clear'] as const;
  expect(countReadings(classes, () => true)).toEqual({ clear: 2, faint: 1, lost: 1 });
  expect(countReadings(classes, (index) => index !== 4)).toEqual({ clear: 1, faint: 1, lost: 1 });
});
