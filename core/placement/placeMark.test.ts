import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ANCHORS, presetRuleSchema, SIZE_BASES, type PresetRule } from '../contract/preset.ts';
import { ANCHOR_HOLDS } from './anchor.ts';
import { placeMark, type Placement } from './placeMark.ts';

const SEED = 20_261_125;
const PRECISION = 1e-6;

function rule(part: Record<string, unknown> = {}): PresetRule {
  return presetRuleSchema.parse(part);
}

function place(
  frame: { width: number; height: number },
  aspect: number,
  part: Record<string, unknown>,
): Placement {
  const placed = placeMark(frame, aspect, rule(part));
  if (!placed.ok) throw new Error(placed.reason);
  return placed.value;
}

const only = (placement: Placement) => placement.copies[0];

describe('size bases', () => {
  const frame = { width: 3000, height: 2000 };
  it.each([
    ['width', 10, 4, 300, 75],
    ['height', 10, 4, 800, 200],
    ['long-side', 10, 4, 300, 75],
    ['long-side', 10, 0.25, 75, 300],
    ['short-side', 10, 4, 200, 50],
    ['short-side', 10, 0.5, 100, 200],
    ['pixels', 123, 3, 123, 41],
    ['contain', 50, 3, 1500, 500],
    ['contain', 50, 0.5, 500, 1000],
    ['cover', 100, 3, 6000, 2000],
  ] as const)('%s %d of a mark of aspect %d is %d × %d', (basis, value, aspect, w, h) => {
    const { size } = only(place(frame, aspect, { size: { basis, value }, anchor: 'centre' }));
    expect(size.width).toBeCloseTo(w, 6);
    expect(size.height).toBeCloseTo(h, 6);
  });

  it('gives the same area on every shape of frame', () => {
    for (const shape of [frame, { width: 900, height: 2700 }, { width: 5000, height: 500 }]) {
      const { size } = only(place(shape, 2.5, { size: { basis: 'area', value: 1.5 } }));
      expect(size.width * size.height).toBeCloseTo(0.015 * shape.width * shape.height, 3);
      expect(size.width / size.height).toBeCloseTo(2.5, 9);
    }
  });

  it('measures contain and cover by the rotated box', () => {
    const contained = place(frame, 3, {
      size: { basis: 'contain', value: 100 },
      rotation: 90,
      anchor: 'centre',
    });
    expect(only(contained).box.height).toBeCloseTo(2000, 6);
    expect(contained.reduced).toBe(false);
    const covering = only(place(frame, 3, { size: { basis: 'cover', value: 100 }, rotation: 30 }));
    expect(covering.box.width).toBeGreaterThanOrEqual(3000 - PRECISION);
    expect(covering.box.height).toBeGreaterThanOrEqual(2000 - PRECISION);
  });
});

describe('anchor, inset and offset', () => {
  const frame = { width: 1000, height: 600 };

  it('measures a percent inset from the short side, the same both ways', () => {
    const { box } = only(
      place(frame, 2, { size: { basis: 'pixels', value: 100 }, inset: { x: 5, y: 5 } }),
    );
    expect(box.x + box.width).toBeCloseTo(1000 - 30, 9);
    expect(box.y + box.height).toBeCloseTo(600 - 30, 9);
  });

  it('touches the edge at inset 0', () => {
    const { box } = only(place(frame, 2, { anchor: 'top-left', inset: { x: 0, y: 0 } }));
    expect([box.x, box.y]).toEqual([0, 0]);
  });

  it('ignores the inset on a centred axis and shifts by the offset', () => {
    const { box } = only(
      place(frame, 2, {
        anchor: 'top',
        size: { basis: 'pixels', value: 100 },
        inset: { x: 40, y: 10 },
        offset: { x: 5, y: -1 },
      }),
    );
    expect(box.x + box.width / 2).toBeCloseTo(500 + 30, 9);
    expect(box.y).toBeCloseTo(60 - 6, 9);
  });

  it('takes an inset in pixels as it is', () => {
    const { box } = only(
      place(frame, 2, { anchor: 'bottom-left', inset: { unit: 'pixels', x: 17, y: 9 } }),
    );
    expect(box.x).toBeCloseTo(17, 9);
    expect(box.y + box.height).toBeCloseTo(591, 9);
  });

  it('lets an offset push the mark over the edge without making it smaller', () => {
    const moved = place(frame, 2, { offset: { x: 50, y: 0 } });
    expect(moved.reduced).toBe(false);
    expect(only(moved).box.x + only(moved).box.width).toBeGreaterThan(1000);
  });
});

describe('fitting into the frame', () => {
  it('scales a mark down that is larger than the frame, and says so', () => {
    const placed = place({ width: 1000, height: 100 }, 2, {
      size: { basis: 'width', value: 90 },
      inset: { x: 10, y: 10 },
    });
    expect(placed.reduced).toBe(true);
    expect(only(placed).box.height).toBeCloseTo(90, 9);
    expect(only(placed).box.y).toBeCloseTo(0, 9);
  });

  it('leaves cover and repeat at their size', () => {
    const covering = place({ width: 400, height: 400 }, 8, {
      size: { basis: 'cover', value: 100 },
    });
    expect(covering.reduced).toBe(false);
    const repeated = place({ width: 400, height: 400 }, 8, {
      size: { basis: 'pixels', value: 900 },
      repeat: {},
    });
    expect(repeated.reduced).toBe(false);
  });

  it('refuses a frame or an aspect that makes no sense', () => {
    expect(placeMark({ width: 0, height: 5 }, 1, rule()).ok).toBe(false);
    expect(placeMark({ width: 5, height: 5 }, Number.NaN, rule()).ok).toBe(false);
  });
});

const frames = fc.record({
  width: fc.integer({ min: 1, max: 12_000 }),
  height: fc.integer({ min: 1, max: 12_000 }),
});
const aspects = fc.double({ min: 0.02, max: 50, noNaN: true });
const relativeBases = SIZE_BASES.filter((basis) => basis !== 'pixels' && basis !== 'cover');
const rules = fc.record({
  size: fc.record({
    basis: fc.constantFrom(...relativeBases),
    value: fc.double({ min: 0.1, max: 1000, noNaN: true }),
  }),
  anchor: fc.constantFrom(...ANCHORS),
  inset: fc.record({
    x: fc.double({ min: 0, max: 100, noNaN: true }),
    y: fc.double({ min: 0, max: 100, noNaN: true }),
  }),
  rotation: fc.double({ min: -360, max: 360, noNaN: true }),
});

describe('invariants', () => {
  it('never puts a mark outside the frame', () => {
    fc.assert(
      fc.property(frames, aspects, rules, (frame, aspect, part) => {
        const { box } = only(place(frame, aspect, part));
        const slack = PRECISION * Math.max(frame.width, frame.height);
        expect(box.x).toBeGreaterThanOrEqual(-slack);
        expect(box.y).toBeGreaterThanOrEqual(-slack);
        expect(box.x + box.width).toBeLessThanOrEqual(frame.width + slack);
        expect(box.y + box.height).toBeLessThanOrEqual(frame.height + slack);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });

  it('gives the same relative box at another output size', () => {
    fc.assert(
      fc.property(
        frames,
        aspects,
        rules,
        fc.integer({ min: 2, max: 9 }),
        (frame, aspect, part, k) => {
          // Frames so small that a whole mark is a pixel are held up by the smallest size.
          fc.pre(
            Math.min(frame.width, frame.height) > 400 && part.inset.x < 99 && part.inset.y < 99,
          );
          const larger = { width: frame.width * k, height: frame.height * k };
          const a = only(place(frame, aspect, part)).box;
          const b = only(place(larger, aspect, part)).box;
          for (const key of ['x', 'y', 'width', 'height'] as const) {
            expect(b[key] / k).toBeCloseTo(a[key], 4);
          }
        },
      ),
      { seed: SEED, numRuns: 300 },
    );
  });

  it('keeps the asked gap to both anchored sides, as long as there is room', () => {
    fc.assert(
      fc.property(frames, aspects, rules, (frame, aspect, part) => {
        fc.pre(Math.min(frame.width, frame.height) > 100 && part.inset.x < 90 && part.inset.y < 90);
        const { box } = only(place(frame, aspect, part));
        const holds = ANCHOR_HOLDS[part.anchor];
        const percent = Math.min(frame.width, frame.height) / 100;
        const gapX = holds.x === 'start' ? box.x : frame.width - box.x - box.width;
        const gapY = holds.y === 'start' ? box.y : frame.height - box.y - box.height;
        if (holds.x !== 'centre') expect(gapX).toBeCloseTo(part.inset.x * percent, 4);
        if (holds.y !== 'centre') expect(gapY).toBeCloseTo(part.inset.y * percent, 4);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });

  it('keeps the aspect of the mark', () => {
    fc.assert(
      fc.property(frames, aspects, rules, (frame, aspect, part) => {
        const { size } = only(place(frame, aspect, part));
        expect(size.width / size.height / aspect).toBeCloseTo(1, 6);
      }),
      { seed: SEED },
    );
  });
});
