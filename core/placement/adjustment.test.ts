import { describe, expect, it } from 'vitest';
import { adjustmentSchema } from '../contract/adjustment.ts';
import { presetRuleSchema } from '../contract/preset.ts';
import {
  adjustedParts,
  adjustmentFor,
  photoRule,
  tidyAdjustment,
  withAdjustmentFor,
  withFirst,
  withoutPart,
} from './adjustment.ts';
import { placeMark } from './placeMark.ts';

const FRAME = { width: 3_000, height: 2_000 };
const rule = presetRuleSchema.parse({ fallbacks: ['top-left'], rescue: 'halo' });

describe('photoRule', () => {
  it('keeps what was adjusted and follows the preset in the rest', () => {
    const adjustment = adjustmentSchema.parse({ opacity: 0.4, tone: { tone: 'dark' } });
    const before = photoRule(rule, adjustment, FRAME);
    expect(before).toEqual({ ...rule, opacity: 0.4, tone: { rule: 'fixed', tone: 'dark' } });
    const changed = { ...rule, opacity: 1, rotation: 12 };
    expect(photoRule(changed, adjustment, FRAME)).toMatchObject({ opacity: 0.4, rotation: 12 });
  });

  it('tries no fallback for a place chosen by hand', () => {
    expect(photoRule(rule, { opacity: 1 }, FRAME).fallbacks).toEqual(['top-left']);
    expect(photoRule(rule, { anchor: 'left' }, FRAME).fallbacks).toEqual([]);
    expect(photoRule(rule, { offset: { x: 1, y: 0 } }, FRAME).fallbacks).toEqual([]);
  });

  it('lays what is said for upright photos over the rule, and what a hand chose over both', () => {
    const upright = { anchor: 'bottom', size: { basis: 'width', value: 40 } } as const;
    const two = presetRuleSchema.parse({ fallbacks: ['top-left'], upright });
    const tall = { width: 2_000, height: 3_000 };
    expect(photoRule(two, {}, FRAME)).toMatchObject({ anchor: 'bottom-right' });
    expect(photoRule(two, {}, { width: 2_000, height: 2_000 }).anchor).toBe('bottom-right');
    expect(photoRule(two, {}, tall)).toMatchObject({ ...upright, fallbacks: ['top-left'] });
    expect(photoRule(two, {}, tall)).toBe(photoRule(two, {}, tall));
    expect(photoRule(two, { anchor: 'left' }, tall)).toMatchObject({
      ...{ anchor: 'left', size: upright.size, fallbacks: [] },
    });
    expect(() => presetRuleSchema.parse({ upright: { opacity: 0.5 } })).toThrow(/opacity/);
  });

  it('can take away what the preset has', () => {
    const repeated = presetRuleSchema.parse({ repeat: {} });
    expect(photoRule(repeated, { repeat: null, rescue: 'none' }, FRAME).repeat).toBeNull();
  });
});

describe('parts', () => {
  const adjustment = adjustmentSchema.parse({
    ...{ anchor: 'left', inset: {}, offset: {}, rotation: 3, leftOut: true },
  });

  it('are told and taken back one by one', () => {
    expect(adjustedParts(adjustment)).toEqual(['place', 'angle', 'left out']);
    expect(withoutPart(adjustment, 'place')).toEqual({ rotation: 3, leftOut: true });
    expect(withoutPart({ rotation: 3 }, 'angle')).toBeNull();
    expect(adjustedParts(undefined)).toEqual([]);
  });

  it('that say nothing are dropped', () => {
    expect(tidyAdjustment({ opacity: undefined, stamps: [] })).toBeNull();
    expect(tidyAdjustment({ opacity: 0, repeat: null })).toEqual({ opacity: 0, repeat: null });
  });
});

describe('several marks on a photo', () => {
  const adjustment = adjustmentSchema.parse({
    ...{ anchor: 'left', leftOut: true, presetId: 3, over: { 5: { rotation: 9 } } },
  });

  it('have each what is their own', () => {
    expect(adjustmentFor(adjustment, null)).toEqual({ anchor: 'left', leftOut: true, presetId: 3 });
    expect(adjustmentFor(adjustment, 5)).toEqual({ rotation: 9 });
    expect(adjustmentFor(adjustment, 6)).toEqual({});
    expect(adjustmentFor({ rotation: 1 }, null)).toEqual({ rotation: 1 });
  });

  it('are changed apart, and leave nothing behind', () => {
    const more = withAdjustmentFor(adjustment, 6, { opacity: 0.5, leftOut: true });
    expect(more?.over).toEqual({ 5: { rotation: 9 }, 6: { opacity: 0.5 } });
    expect(withAdjustmentFor(adjustment, 5, null)).toEqual({
      ...{ anchor: 'left', leftOut: true, presetId: 3 },
    });
    expect(withAdjustmentFor({ over: { 5: { rotation: 9 } } }, 5, null)).toBeNull();
    expect(withAdjustmentFor(adjustment, null, null)).toEqual({ over: { 5: { rotation: 9 } } });
  });

  it('stay with their marks where another comes to be the first', () => {
    expect(withFirst(adjustment, 4, 5)).toEqual({
      ...{ rotation: 9, leftOut: true, presetId: 3, over: { 4: { anchor: 'left' } } },
    });
    expect(withFirst(withFirst(adjustment, 4, 5) ?? {}, 5, 4)).toEqual(adjustment);
    expect(withFirst({ anchor: 'left' }, 4, 5)).toEqual({ over: { 4: { anchor: 'left' } } });
    expect(withFirst({ leftOut: true }, 4, 5)).toEqual({ leftOut: true });
    expect(withFirst({ over: { 6: { rotation: 2 } } }, 4, 5)).toEqual({
      over: { 6: { rotation: 2 } },
    });
  });

  it('count as adjusted by any of them', () => {
    expect(adjustedParts(adjustment)).toEqual(['preset', 'place', 'angle', 'left out']);
  });
});

describe('placeMark with an adjustment', () => {
  it('puts stamps beside the copy of the rule, each with its own size and turn', () => {
    const stamps = [{ x: 0.25, y: 0.5, scale: 2, rotation: 90 }];
    const placed = placeMark(FRAME, 3, { ...rule, fallbacks: [] }, { stamps });
    if (!placed.ok) throw new Error(placed.reason);
    const [own, stamp] = placed.value.copies;
    expect(stamp.size.width).toBeCloseTo(own.size.width * 2, 6);
    expect(stamp.box.x + stamp.box.width / 2).toBeCloseTo(750, 6);
    expect(stamp.box.y + stamp.box.height / 2).toBeCloseTo(1_000, 6);
    expect(stamp.box.width).toBeCloseTo(stamp.size.height, 6);
  });

  it('takes anchor, tone and rescue from the choice', () => {
    const rescue = { kind: 'halo', strength: 0.5, colour: '#000000' } as const;
    const placed = placeMark(
      FRAME,
      3,
      rule,
      {},
      {
        ...{ anchor: 'top-left', tone: 'dark', rescue, opacity: 0.5 },
      },
    );
    if (!placed.ok) throw new Error(placed.reason);
    expect(placed.value).toMatchObject({ anchor: 'top-left', tone: 'dark', rescue });
    // A rule of one opacity has that.
    expect(placed.value.opacity).toBe(rule.opacity);
    expect(placed.value.copies[0].box.x).toBeCloseTo(60, 6);
    expect(placed.value.copies[0].box.y).toBeCloseTo(60, 6);
  });
});
