import { describe, expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import { resizeText, shortDelivery, typeText } from './deliveryText.ts';

describe('words', () => {
  it.each([
    [{}, 'JPEG of quality 88', '2048 px on the long side', 'JPEG, 2048 px'],
    [{ file: { type: 'png' }, resize: null }, 'PNG', 'full size', 'PNG, full size'],
    [{ resize: { rule: 'megapixels', px: 4 } }, 'JPEG of quality 88', '4 megapixels', 'JPEG, 4 MP'],
    [
      { resize: { rule: 'within', px: 900, px2: 600 } },
      'JPEG of quality 88',
      'within 900 × 600 px',
      'JPEG, 900 px',
    ],
  ])('reads %j as a sentence', (part, type, size, short) => {
    const rule = deliveryRuleSchema.parse(part);
    expect([typeText(rule.file), resizeText(rule.resize), shortDelivery(rule)]).toEqual([
      type,
      size,
      short,
    ]);
  });
});
