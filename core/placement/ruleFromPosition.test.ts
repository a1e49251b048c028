import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { centreOf } from './geometry.ts';
import { placeMark } from './placeMark.ts';
import { nearestAnchor, ruleFromPosition } from './ruleFromPosition.ts';

const frame = { width: 1500, height: 1000 };
const mark = { width: 200, height: 80 };

describe('nearestAnchor', () => {
  it.each([
    [10, 10, 'top-left'],
    [750, 60, 'top'],
    [1400, 500, 'right'],
    [760, 480, 'centre'],
    [100, 950, 'bottom-left'],
    [1490, 990, 'bottom-right'],
  ] as const)('%d, %d is %s', (x, y, anchor) => {
    expect(nearestAnchor(frame, { x, y })).toBe(anchor);
  });
});

describe('ruleFromPosition', () => {
  it('is the inverse of placing, within its step, anywhere in the frame', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1500 }), fc.integer({ min: 0, max: 1000 }), (x, y) => {
        const wanted = { x: Math.min(1400, Math.max(100, x)), y: Math.min(960, Math.max(40, y)) };
        const position = ruleFromPosition(frame, mark, { x, y });
        const rule = presetRuleSchema.parse({ size: { basis: 'pixels', value: 200 }, ...position });
        const placed = placeMark(frame, 2.5, rule);
        if (!placed.ok) throw new Error(placed.reason);
        const centre = centreOf(placed.value.copies[0].box);
        // Insets that are nearly equal are made equal, which may move the mark by up to 0.7 %.
        expect(Math.abs(centre.x - wanted.x)).toBeLessThanOrEqual(8);
        expect(Math.abs(centre.y - wanted.y)).toBeLessThanOrEqual(8);
        expect(placed.value.reduced).toBe(false);
      }),
      { seed: 7, numRuns: 400 },
    );
  });

  it('makes insets equal that were meant to be', () => {
    const { inset } = ruleFromPosition(frame, mark, { x: 1500 - 100 - 30, y: 1000 - 40 - 34 });
    expect(inset).toEqual({ unit: 'percent', x: 3, y: 3 });
  });

  it('keeps the unit of the inset', () => {
    const { inset } = ruleFromPosition(frame, mark, { x: 120, y: 100 }, 'pixels');
    expect(inset).toEqual({ unit: 'pixels', x: 20, y: 60 });
  });

  it('turns the distance from the middle into the offset', () => {
    const { anchor, offset } = ruleFromPosition(frame, mark, { x: 790, y: 60 });
    expect(anchor).toBe('top');
    expect(offset).toEqual({ x: 4, y: 0 });
  });
});
