import { describe, expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { placeMark, type Placement } from '../placement/placeMark.ts';
import { planRasters, type RasterPlacing } from './rasterPlan.ts';

function placement(frame: { width: number; height: number }, part: object): Placement {
  const placed = placeMark(frame, 3, presetRuleSchema.parse(part));
  if (!placed.ok) throw new Error(placed.reason);
  return placed.value;
}

/** Edges of the unrotated mark where the raster puts it, in pixels of the frame. */
function drawnBox({ spec, left, top }: RasterPlacing) {
  return {
    x: left + spec.centreX - spec.markWidth / 2,
    y: top + spec.centreY - spec.markHeight / 2,
  };
}

describe('planRasters', () => {
  it('lays the mark within half a pixel of its box', () => {
    const frame = { width: 2047, height: 1365 };
    const placed = placement(frame, { inset: { x: 3.3, y: 3.3 } });
    const [plan] = planRasters(frame, placed.copies);
    const drawn = drawnBox(plan);
    expect(Math.abs(drawn.x - placed.copies[0].box.x)).toBeLessThanOrEqual(0.5);
    expect(Math.abs(drawn.y - placed.copies[0].box.y)).toBeLessThanOrEqual(0.5);
    expect(Number.isInteger(plan.left) && Number.isInteger(plan.top)).toBe(true);
  });

  it('shares one raster between photos of one size and all copies of a repeat', () => {
    const frame = { width: 2048, height: 1365 };
    const a = planRasters(frame, placement(frame, { anchor: 'top-left' }).copies)[0].spec;
    const b = planRasters(frame, placement(frame, { anchor: 'right' }).copies)[0].spec;
    expect(a).toEqual(b);
    const all = planRasters(frame, placement(frame, { repeat: { angle: 13 } }).copies);
    expect(new Set(all.map((plan) => JSON.stringify(plan.spec))).size).toBe(1);
    expect(all.length).toBeGreaterThan(10);
  });

  it('draws of a mark larger than the frame only what is seen', () => {
    const frame = { width: 3000, height: 2000 };
    const placed = placement(frame, { size: { basis: 'cover', value: 150 }, anchor: 'centre' });
    const [plan] = planRasters(frame, placed.copies);
    expect([plan.left, plan.top, plan.spec.width, plan.spec.height]).toEqual([0, 0, 3000, 2000]);
    expect(drawnBox(plan).x).toBeCloseTo(placed.copies[0].box.x, 9);
  });
});
