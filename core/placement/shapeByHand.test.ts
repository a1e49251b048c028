import { expect, it } from 'vitest';
import { presetRuleSchema, SIZE_BASES } from '../contract/preset.ts';
import { placeMark } from './placeMark.ts';
import { heldPoint, resizedRule, tidyAngle } from './shapeByHand.ts';

it.each(SIZE_BASES)('makes a mark sized by %s as large as the hand asks', (basis) => {
  const rule = presetRuleSchema.parse({ size: { basis, value: 12 }, anchor: 'top-left' });
  const width = (size: typeof rule.size): number => {
    const placed = placeMark({ width: 3_000, height: 2_000 }, 3, { ...rule, size });
    if (!placed.ok) throw new Error(placed.reason);
    return placed.value.copies[0].size.width;
  };
  const grown = width(resizedRule(rule.size, 1.5)) / width(rule.size);
  expect(grown).toBeCloseTo(1.5, 2);
});

it('stays within what a preset allows', () => {
  expect(resizedRule({ basis: 'width', value: 900 }, 3).value).toBe(1_000);
  expect(resizedRule({ basis: 'pixels', value: 900 }, 3).value).toBe(2_700);
  expect(resizedRule({ basis: 'width', value: 1 }, 0.001).value).toBe(0.1);
});

it('knows the point that an anchor holds', () => {
  const box = { x: 10, y: 20, width: 100, height: 50 };
  expect(heldPoint(box, 'bottom-right')).toEqual({ x: 110, y: 70 });
  expect(heldPoint(box, 'top')).toEqual({ x: 60, y: 20 });
  expect(heldPoint(box, 'left')).toEqual({ x: 10, y: 45 });
});

it('tidies angles', () => {
  expect([tidyAngle(190.04), tidyAngle(-190), tidyAngle(720), tidyAngle(-0.01)]).toEqual([
    -170, 170, 0, 0,
  ]);
});
