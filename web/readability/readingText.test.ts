import { expect, it } from 'vitest';
import { presetRuleSchema } from '#core/contract/preset';
import { groundWords, placeSentence, rescueSentence, toneSentence } from './readingText.ts';

const rule = presetRuleSchema.parse({ fallbacks: ['top-left'] });
const choice = { anchor: 'bottom-right', tone: 'dark', rescue: null } as const;
const nameOf = (tone: string): string => tone.charAt(0).toUpperCase() + tone.slice(1);

it('says which tone, and why', () => {
  expect(toneSentence(choice, rule, {}, nameOf)).toBe('Dark: it reads better here than light.');
  const fixed = { tone: { rule: 'fixed', tone: 'dark' } } as const;
  expect(toneSentence(choice, rule, fixed, nameOf)).toBe('Dark, set for this photo.');
  const preset = presetRuleSchema.parse(fixed);
  expect(toneSentence(choice, preset, {}, nameOf)).toBe('Dark, as the preset says.');
});

it('says where it went and what helps it, where there is something to say', () => {
  expect(placeSentence(choice, rule, {})).toBe('');
  const moved = { ...choice, anchor: 'top-left' } as const;
  expect(placeSentence(moved, rule, {})).toBe(
    'Moved high left, since low right would not be clear.',
  );
  expect(placeSentence(moved, rule, { anchor: 'top-left' })).toBe('');
  const rescue = { kind: 'halo', strength: 0.35, colour: '#000000' } as const;
  expect(rescueSentence({ ...choice, rescue })).toContain('a halo at 35 %');
  expect(rescueSentence(choice)).toBe('');
});

it('names grounds', () => {
  expect([1, 8, 30].map(groundWords)).toEqual(['calm', 'busy', 'restless']);
});
