import { describe, expect, it } from 'vitest';
import { deliveryRuleSchema } from '../contract/delivery.ts';
import { placeOnSheet, preparation, sheetsWithPhotos, trimOf } from './photoOnSheet.ts';

const PHOTO = { width: 6_000, height: 4_000 };
const EDGE = { top: 0, right: 0, bottom: 0, left: 0 };
const ruleOf = (sheet: object, more: object = {}) =>
  deliveryRuleSchema.parse({ kind: 'sheet', sheet, ...more });

describe('how a photo is made ready', () => {
  it('takes as many pixels as the print has in its place, whole where it is not cut', () => {
    const ready = preparation(ruleOf({ paper: 'a4', lies: 'across', dpi: 254 }), PHOTO, 0, PHOTO);
    // 277 × 190 mm are left: 277 mm wide, ten pixels a millimetre.
    expect(ready).toMatchObject({
      ok: true,
      value: {
        rule: { resize: { rule: 'within', px: 2_770, enlarge: false }, colour: 'srgb' },
        prepared: { part: { x: 0, y: 0, width: 1, height: 1 }, trim: { x: 0, width: 1 } },
      },
    });
  });

  it('keeps more of one that is cut, so that its part has those pixels', () => {
    const square = { width: 100, height: 100 };
    const rule = ruleOf({ paper: square, margin: EDGE, fit: 'fill', dpi: 254 });
    const ready = preparation(rule, PHOTO, 0, PHOTO);
    if (!ready.ok) throw new Error(ready.reason);
    expect(ready.value.prepared.part.width).toBeCloseTo(2 / 3, 6);
    expect(ready.value.rule.resize).toMatchObject({ px: 1_500, px2: 1_000 });
  });

  it('has no mark on it where that goes into the margin alone', () => {
    const marked = (mark_on: string, mark = true) => {
      const ready = preparation(ruleOf({ mark_on }, { mark }), PHOTO, 0, PHOTO);
      return ready.ok && ready.value.rule.mark;
    };
    expect([marked('photo'), marked('both'), marked('margin')]).toEqual([true, true, false]);
    expect(marked('photo', false)).toBe(false);
  });

  it('tells where there is no room', () => {
    const ready = preparation(ruleOf({ paper: 'a6', margin: { left: 99 } }), PHOTO, 0, PHOTO);
    expect(ready.ok).toBe(false);
  });
});

describe('the place of a photo', () => {
  it('is that of the whole plan, wherever on its sheet it lies', () => {
    const rule = ruleOf({
      ...{ paper: 'a5', fit: 'fill', bleed: 3, margin: EDGE },
      grid: { columns: 2, rows: 3, gap: 0 },
    });
    const sizes = Array.from({ length: 12 }, (_, at) =>
      at % 2 ? PHOTO : { width: 4_000, height: 6_000 },
    );
    const planned = sheetsWithPhotos(
      rule.sheet,
      sizes.map((size) => ({ size, isThere: true })),
    );
    if (!planned.ok) throw new Error(planned.reason);
    for (const { index, box, part } of planned.value.flatMap(({ photos }) => photos)) {
      const first = sizes[index - (index % 6)];
      const placed = placeOnSheet(rule.sheet, sizes[index], index, first);
      expect(placed).toMatchObject({ ok: true, value: { box, part } });
    }
  });

  it('of a sheet that lies as its first photo does goes by that', () => {
    const rule = ruleOf({ paper: 'a5', lies: 'photo', grid: { columns: 2 } }).sheet;
    const across = placeOnSheet(rule, PHOTO, 1, PHOTO);
    const upright = placeOnSheet(rule, PHOTO, 1, { width: 4_000, height: 6_000 });
    expect(across.ok && upright.ok && across.value.box.width > upright.value.box.width).toBe(true);
  });
});

describe('sheets', () => {
  const rule = ruleOf({ grid: { columns: 2, rows: 1 } }).sheet;

  it('without any photo are left out; the others keep their photos’ places', () => {
    const there = [true, true, false, false, false, true, true];
    const sheets = sheetsWithPhotos(
      rule,
      there.map((isThere) => ({ size: PHOTO, isThere })),
    );
    if (!sheets.ok) throw new Error(sheets.reason);
    expect(sheets.value.map(({ photos }) => photos.map(({ index }) => index))).toEqual([
      [0, 1],
      [4, 5],
      [6],
    ]);
  });

  it('leave of a box what lies within them', () => {
    const box = { x: -3, y: 10, width: 103, height: 190 };
    const trim = trimOf(box, { width: 100, height: 190 });
    expect(trim.x).toBeCloseTo(3 / 103, 9);
    expect([trim.y, trim.width]).toEqual([0, expect.closeTo(100 / 103, 9)]);
    expect(trim.height).toBeCloseTo(180 / 190, 9);
  });
});
