import { expect, it } from 'vitest';
import type { Adjustment } from '#core/contract/adjustment';
import { presetRuleSchema } from '#core/contract/preset';
import { LYING, type Subject } from '../preset/subject.ts';
import {
  groundWords,
  opacitySentence,
  partSentence,
  placeSentence,
  rescueSentence,
  toneSentence,
} from './readingText.ts';

const rule = presetRuleSchema.parse({ fallbacks: ['top-left'] });
const choice = { anchor: 'bottom-right', tone: 'dark', rescue: null, opacity: 0.85 } as const;
const on = (adjustment: Adjustment = {}, own = rule): Subject => ({
  ...{ mark: null, rule: own, adjustment, shape: LYING },
});
const nameOf = (tone: string): string => tone.charAt(0).toUpperCase() + tone.slice(1);

it('says which tone, and why', () => {
  expect(toneSentence(choice, on(), nameOf)).toBe('Dark: it reads better here than light.');
  const fixed = { tone: { rule: 'fixed', tone: 'dark' } } as const;
  expect(toneSentence(choice, on(fixed), nameOf)).toBe('Dark, set for this photo.');
  const preset = presetRuleSchema.parse(fixed);
  expect(toneSentence(choice, on({}, preset), nameOf)).toBe('Dark, as the preset says.');
});

it('says where it went and what helps it, where there is something to say', () => {
  expect(placeSentence(choice, on())).toBe('');
  const moved = { ...choice, anchor: 'top-left' } as const;
  expect(placeSentence(moved, on())).toBe('Moved high left, since low right would not be clear.');
  expect(placeSentence(moved, on({ anchor: 'top-left' }))).toBe('');
  const rescue = { kind: 'halo', strength: 0.35, colour: '#000000' } as const;
  expect(rescueSentence({ ...choice, rescue })).toContain('a halo at 35 %');
  expect(rescueSentence(choice)).toBe('');
});

it('names grounds', () => {
  expect([1, 8, 30].map(groundWords)).toEqual(['calm', 'busy', 'restless']);
});

it('says how strong a quiet mark came to be', () => {
  const quiet = presetRuleSchema.parse({ opacity: { rule: 'quiet' } });
  expect(opacitySentence(choice, on())).toBe('');
  const found = { ...choice, opacity: 0.4 };
  expect(opacitySentence(found, on({}, quiet))).toBe('40 % strong: as quiet as it reads here.');
  expect(opacitySentence({ ...found, opacity: 0.9 }, on({}, quiet))).toContain('the most it may');
  expect(opacitySentence(found, on({ opacity: 0.4 }, quiet))).toBe('');
});

it('names the part that does not read by where it lies in the mark', () => {
  const copy = { x: 0.5, y: 0.5, width: 0.4, height: 0.4 };
  const frame = { width: 300, height: 200 };
  const low = { x: 0.6, y: 0.8, width: 0.2, height: 0.05 };
  const weak = { class: 'faint', weakest: 0.4, weakestBox: low } as const;
  expect(partSentence(weak, copy, frame)).toBe(
    'The lower part of it is the faintest: 40 % of that reads.',
  );
  const corner = { ...weak, weakestBox: { x: 0.5, y: 0.5, width: 0.05, height: 0.05 } };
  expect(partSentence(corner, copy, frame)).toContain('upper left');
  // A line of words has no above and below.
  const line = { ...copy, height: 0.04 };
  expect(partSentence(corner, line, frame)).toContain('The left part');
  expect(partSentence({ ...weak, class: 'clear' }, copy, frame)).toBe('');
  expect(partSentence({ ...weak, weakestBox: null }, copy, frame)).toBe('');
});
