import { expect, it } from 'vitest';
import { resizeSchema } from '../contract/delivery.ts';
import { resizeBy } from './resizeBy.ts';

const at = (rule: string, px: number) => resizeSchema.parse({ rule, px });

it('keeps the pixels, and gives a box its second side', () => {
  expect(resizeBy(at('long-side', 1_200), 'width')).toMatchObject({ rule: 'width', px: 1_200 });
  expect(resizeBy(at('long-side', 1_200), 'within')).toMatchObject({ px: 1_200, px2: 1_200 });
  expect(resizeBy(resizeBy(at('width', 900), 'within'), 'height').px2).toBeNull();
});

it('begins with a usual number where the sort changes', () => {
  expect(resizeBy(at('long-side', 1_200), 'megapixels').px).toBe(4);
  expect(resizeBy(at('megapixels', 12.5), 'long-side').px).toBe(2_048);
  expect(resizeBy(null, 'short-side')).toMatchObject({ rule: 'short-side', px: 2_048 });
});

it.each(['long-side', 'short-side', 'width', 'height', 'within', 'megapixels'] as const)(
  'gives a rule that is one: %s',
  (rule) => {
    for (const before of [null, at('megapixels', 2.5), at('height', 700)])
      expect(resizeSchema.safeParse(resizeBy(before, rule)).success).toBe(true);
  },
);
