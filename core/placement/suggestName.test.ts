import { expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
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
