import { describe, expect, it } from 'vitest';
import { presetRuleSchema, type SizeBasis } from '../contract/preset.ts';
import { insetInOtherUnit, sizeByBasis } from './convert.ts';
import { placeMark } from './placeMark.ts';

const frame = { width: 3_000, height: 2_000 };

describe('an inset', () => {
  it('is as many pixels as it was percent of the short side, and back', () => {
    const pixels = insetInOtherUnit({ unit: 'percent', x: 3, y: 1.5 }, frame);
    expect(pixels).toEqual({ unit: 'pixels', x: 60, y: 30 });
    expect(insetInOtherUnit(pixels, frame)).toEqual({ unit: 'percent', x: 3, y: 1.5 });
  });

  it('is never more than there is', () => {
    expect(insetInOtherUnit({ unit: 'pixels', x: 9_000, y: 0 }, frame).x).toBe(100);
  });
});

describe('a size', () => {
  const rule = presetRuleSchema.parse({ size: { basis: 'long-side', value: 14 } });
  const widthOf = (size: typeof rule.size): number => {
    const placed = placeMark(frame, 3, { ...rule, size });
    return placed.ok ? placed.value.copies[0].size.width : NaN;
  };

  it.each<SizeBasis>(['short-side', 'width', 'height', 'area', 'pixels', 'contain'])(
    'by %s leaves the mark as large as it was',
    (basis) => {
      const size = sizeByBasis(rule, basis, { frame, aspect: 3, least: 0.1 });
      expect(size.basis).toBe(basis);
      expect(widthOf(size) / widthOf(rule.size)).toBeCloseTo(1, 1);
    },
  );
});
