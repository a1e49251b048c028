import { expect, it } from 'vitest';
import { NAME_MAX_LENGTH, presetRuleSchema } from '../contract/preset.ts';
import { freeName, suggestName } from './suggestName.ts';

it('says mark, place and tone', () => {
  const rule = presetRuleSchema.parse({ anchor: 'top-left', tone: { tone: 'dark' } });
  expect(suggestName('Signature', rule)).toBe('Signature, high left, dark');
  const repeated = presetRuleSchema.parse({ repeat: {} });
  expect(suggestName('Crest', repeated)).toBe('Crest, all over, light');
});

it('numbers a name that is taken', () => {
  expect(freeName('Crest', ['Signature'])).toBe('Crest');
  expect(freeName('Crest', ['Crest', 'Crest 2'])).toBe('Crest 3');
});

it('stays within the length a name may have', () => {
  const long = 'n'.repeat(NAME_MAX_LENGTH);
  expect(freeName(long, [long])).toBe(`${'n'.repeat(NAME_MAX_LENGTH - 2)} 2`);
});
