import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { turned } from '../placement/geometry.ts';
import type { LayerFrame } from './frame.ts';
import {
  caught,
  chosenFrame,
  following,
  movedFrame,
  sizedFrame,
  turnedFrame,
  type Grip,
} from './gesture.ts';

const frame = (part: Partial<LayerFrame> = {}): LayerFrame => ({
  ...{ centre: { x: 100, y: 50 }, width: 80, height: 40, turn: 0 },
  ...part,
});
const KEPT = { keepsRatio: true, fromMiddle: false };
const FREE = { keepsRatio: false, fromMiddle: false };
const LOWER_RIGHT: Grip = { x: 1, y: 1 };

/** Where a corner of a frame lies. */
function corner({ centre, width, height, turn }: LayerFrame, { x, y }: Grip) {
  const away = turned({ x: (x * width) / 2, y: (y * height) / 2 }, turn);
  return { x: centre.x + away.x, y: centre.y + away.y };
}

describe('what is chosen', () => {
  it('is held by its own frame, or by one round all', () => {
    const one = frame({ turn: 30 });
    expect(chosenFrame([one])).toBe(one);
    const both = chosenFrame([frame(), frame({ centre: { x: 300, y: 50 } })]);
    expect(both).toEqual({ centre: { x: 200, y: 50 }, width: 280, height: 40, turn: 0 });
    expect(chosenFrame([])).toBeNull();
  });
});

describe('sizing', () => {
  it('keeps proportions and the opposite corner, however it is turned', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -180, max: 180 }),
        fc.integer({ min: -30, max: 200 }),
        fc.integer({ min: -15, max: 200 }),
        fc.constantFrom<Grip>({ x: 1, y: 1 }, { x: -1, y: 1 }, { x: 1, y: -1 }, { x: -1, y: -1 }),
        (turn, x, y, grip) => {
          const start = frame({ turn });
          const by = turned({ x: x * grip.x, y: y * grip.y }, turn);
          const sized = sizedFrame(start, grip, by, KEPT);
          expect(sized.width / sized.height).toBeCloseTo(2, 6);
          const opposite = { x: -grip.x, y: -grip.y } as Grip;
          const [before, after] = [corner(start, opposite), corner(sized, opposite)];
          expect(after.x).toBeCloseTo(before.x, 6);
          expect(after.y).toBeCloseTo(before.y, 6);
          expect(sized.turn).toBe(turn);
        },
      ),
      { seed: 11 },
    );
  });

  it('follows the pointer where proportions are free', () => {
    const start = frame({ turn: 25 });
    const by = { x: 33, y: 21 };
    const sized = sizedFrame(start, LOWER_RIGHT, by, FREE);
    const [before, after] = [corner(start, LOWER_RIGHT), corner(sized, LOWER_RIGHT)];
    expect(after.x - before.x).toBeCloseTo(33, 6);
    expect(after.y - before.y).toBeCloseTo(21, 6);
  });

  it('leaves the middle where that is wished, and grows to both sides', () => {
    const sized = sizedFrame(frame(), LOWER_RIGHT, { x: 10, y: 0 }, { ...FREE, fromMiddle: true });
    expect(sized).toEqual(frame({ width: 100 }));
  });

  it('by a side changes that side only, or keeps proportions', () => {
    const right: Grip = { x: 1, y: 0 };
    expect(sizedFrame(frame(), right, { x: 20, y: 99 }, FREE)).toMatchObject({
      ...{ width: 100, height: 40 },
      centre: { x: 110, y: 50 },
    });
    expect(sizedFrame(frame(), right, { x: 20, y: 99 }, KEPT)).toMatchObject({
      ...{ width: 100, height: 50 },
    });
  });

  it('never turns inside out', () => {
    for (const wish of [KEPT, FREE]) {
      const sized = sizedFrame(frame(), LOWER_RIGHT, { x: -500, y: -500 }, wish);
      expect(sized.width).toBeGreaterThanOrEqual(1);
      expect(sized.height).toBeGreaterThanOrEqual(1);
    }
  });
});

describe('turning', () => {
  it('is caught by eighths, and goes by steps where that is wished', () => {
    expect(turnedFrame(frame(), 44, false).turn).toBe(45);
    expect(turnedFrame(frame(), 40, false).turn).toBe(40);
    expect(turnedFrame(frame(), 40, true).turn).toBe(45);
    expect(turnedFrame(frame({ turn: -91 }), 0, false).turn).toBe(-90);
  });
});

describe('a layer of several', () => {
  it('follows the rectangle round them', () => {
    const [a, b] = [frame(), frame({ centre: { x: 300, y: 50 }, turn: 10 })];
    const from = chosenFrame([a, b]);
    if (!from) throw new Error('no frame');
    const to = movedFrame(
      { ...from, width: from.width * 2, height: from.height * 2 },
      { x: 5, y: 0 },
    );
    const next = following(a, from, to);
    expect(next).toMatchObject({ width: 160, height: 80 });
    expect(next.centre.x - to.centre.x).toBeCloseTo(2 * (a.centre.x - from.centre.x), 6);
    const turnedTo = { ...from, turn: 90 };
    const round = following(b, from, turnedTo);
    expect(round.turn).toBe(100);
    expect(round.centre.x).toBeCloseTo(from.centre.x - (b.centre.y - from.centre.y), 6);
  });

  it('stays as it is where nothing moved', () => {
    const one = frame({ turn: 33 });
    const same = following(one, one, one);
    expect(same.centre.x).toBeCloseTo(one.centre.x, 9);
    expect(same).toMatchObject({ width: 80, height: 40, turn: 33 });
  });
});

describe('guides', () => {
  const box = { x: 0, y: 0, width: 100, height: 20 };

  it('catch the nearest edge or middle', () => {
    const other = { x: 103, y: 200, width: 60, height: 10 };
    expect(caught(box, [other], 5)).toEqual({
      by: { x: 3, y: 0 },
      guides: { x: [103], y: [] },
    });
    const beneath = { x: 20, y: 60, width: 56, height: 10 };
    expect(caught(box, [beneath], 5).by.x).toBe(-2);
  });

  it('let go beyond their reach, and show every line that is shared', () => {
    expect(caught(box, [{ x: 110, y: 200, width: 60, height: 10 }], 5).by).toEqual({ x: 0, y: 0 });
    const same = { x: 2, y: 80, width: 100, height: 20 };
    expect(caught(box, [same], 5).guides.x).toEqual([2, 52, 102]);
  });
});
