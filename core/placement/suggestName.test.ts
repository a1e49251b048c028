import { expect, it } from 'vitest';
import { NAME_MAX_LENGTH, presetRuleSchema } from '../contract/preset.ts';
import { freeName, suggestName } from './suggestName.ts';

it('says mark, place, tone and size', () => {
  const rule = presetRuleSchema.parse({ anchor: 'top-left', tone: { tone: 'dark' } });
  expect(suggestName('Signature', rule)).toBe('Signature, high left, dark, 14 % of the long side');
  const repeated = presetRuleSchema.parse({ repeat: {}, size: { basis: 'cover', value: 90 } });
  expect(suggestName('Crest', repeated)).toBe('Crest, all over, light or dark, covering 90 %');
  const brass = presetRuleSchema.parse({ tone: { tone: '#c9a25b' }, size: { basis: 'pixels' } });
  expect(suggestName('Crest', brass, () => 'brass')).toBe('Crest, low right, brass, 14 px wide');
});

it('numbers a name that is taken', () => {
  expect(freeName('Crest', ['Signature'])).toBe('Crest');
  expect(freeName('Crest', ['Crest', 'Crest 2'])).toBe('Crest 3');
});

it('stays within the length a name may have', () => {
  const long = 'n'.repeat(NAME_MAX_LENGTH);
  const cut = suggestName(long, presetRuleSchema.parse({}));
  expect(cut).toHaveLength(NAME_MAX_LENGTH);
  expect(cut).toContain('n, low right, light or dark, 14 % of the long side');
  expect(freeName(long, [long])).toBe(`${'n'.repeat(NAME_MAX_LENGTH - 2)} 2`);
});
