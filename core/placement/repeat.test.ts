import { describe, expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { centreOf, turned } from './geometry.ts';
import { placeMark } from './placeMark.ts';

const frame = { width: 900, height: 600 };

function copies(repeat: Record<string, unknown>, part: Record<string, unknown> = {}) {
  const rule = presetRuleSchema.parse({
    size: { basis: 'pixels', value: 100 },
    anchor: 'centre',
    repeat,
    ...part,
  });
  const placed = placeMark(frame, 2, rule);
  if (!placed.ok) throw new Error(placed.reason);
  return placed.value.copies;
}

describe('repeat', () => {
  it('tiles a frame without gaps by the unrotated size', () => {
    const all = copies({ gapX: 0, gapY: 0, stagger: false, angle: 0 });
    // Centred: 9 columns (from 0 to 900) and 12 rows, with half a mark over at top and bottom.
    expect(all).toHaveLength(9 * 13);
    const xs = [...new Set(all.map((copy) => Math.round(copy.box.x)))].sort((a, b) => a - b);
    expect(xs[1] - xs[0]).toBe(100);
  });

  it('widens the pitch by the gaps and shifts every other row by half of it', () => {
    const all = copies({ gapX: 50, gapY: 100, stagger: true, angle: 0 });
    const centres = all.map((copy) => centreOf(copy.box));
    const middle = centres.filter((c) => Math.abs(c.y - 300) < 1).map((c) => c.x);
    const next = centres.filter((c) => Math.abs(c.y - 400) < 1).map((c) => c.x);
    expect(middle).toContain(450);
    expect(next.some((x) => Math.abs(x - (450 + 75)) < 1e-6)).toBe(true);
    expect(next.some((x) => Math.abs(x - 450) < 1e-6)).toBe(false);
  });

  it('turns the grid about the anchored copy and leaves the copies at their own angle', () => {
    const all = copies({ gapX: 0, gapY: 0, stagger: false, angle: 30 }, { rotation: 10 });
    const step = turned({ x: 100, y: 0 }, 30);
    const found = all.some((copy) => {
      const c = centreOf(copy.box);
      return Math.abs(c.x - 450 - step.x) < 1e-6 && Math.abs(c.y - 300 - step.y) < 1e-6;
    });
    expect(found).toBe(true);
    expect(all.every((copy) => copy.rotation === 10)).toBe(true);
  });

  it('lists every copy that touches the frame and none that does not', () => {
    const repeat = { gapX: 35, gapY: 20, stagger: true, angle: 17 };
    const all = copies(repeat, { rotation: 40 });
    const { width, height } = all[0].box;
    let expected = 0;
    for (let row = -60; row <= 60; row++) {
      for (let column = -60; column <= 60; column++) {
        const shift = Math.abs(row % 2) === 1 ? 135 / 2 : 0;
        const at = turned({ x: column * 135 + shift, y: row * 60 }, 17);
        const x = 450 + at.x - width / 2;
        const y = 300 + at.y - height / 2;
        if (x + width > 0 && x < 900 && y + height > 0 && y < 600) expected++;
      }
    }
    expect(all).toHaveLength(expected);
  });

  it.each([[2], [0.2]])('refuses more than 4,000 copies (mark of %d px)', (value) => {
    const rule = presetRuleSchema.parse({
      size: { basis: 'pixels', value },
      repeat: { gapX: 0, gapY: 0 },
    });
    const placed = placeMark(frame, 2, rule);
    expect(placed.ok).toBe(false);
    if (!placed.ok) expect(placed.reason).toContain('at most 4,000 copies');
  });
});
