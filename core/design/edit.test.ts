import { describe, expect, it } from 'vitest';
import { context, font } from '#tests/helpers/faces';
import { designSchema, type Design, type Layer } from '../contract/design.ts';
import { defaultFinish } from '../contract/finish.ts';
import { ARRANGEMENTS, arranged } from './arrangements.ts';
import {
  added,
  aligned,
  duplicated,
  grouped,
  inOrder,
  moved,
  spread,
  takenWith,
  withFinish,
  without,
  withoutFinish,
} from './edit.ts';
import { frameBox, layerFrame, withFrame } from './frame.ts';
import { measureDesign } from './measure.ts';

const ctx = context();
const box = (id: string, x: number, y: number, width: number, part: object = {}) => ({
  ...{ kind: 'shape', id, place: { x, y }, shape: { form: 'box', width, height: 20 } },
  ...part,
});
const design = (...layers: object[]): Design => designSchema.parse({ layers });
const places = ({ layers }: Design) => layers.map(({ place: { x, y } }) => [x, y]);
const ids = (...some: string[]): ReadonlySet<string> => new Set(some);
const numbered = (): (() => string) => {
  let number = 0;
  return () => `new${++number}`;
};

const three = design(box('a', 0, 0, 20), box('b', 30, 5, 40), box('c', 200, 9, 20));

describe('changes to a design', () => {
  it('keep the order that is wished, and what is not named below', () => {
    const order = inOrder(three, ['c', 'a']).layers.map(({ id }) => id);
    expect(order).toEqual(['b', 'c', 'a']);
  });

  it('duplicate a group as a group of its own, above what it was made of', () => {
    const pair = grouped(three, ids('a', 'b'), 'g');
    const { design: next, copies } = duplicated(pair, ids('a', 'b'), numbered());
    expect(next.layers.map(({ id }) => id).slice(0, 2)).toEqual(['a', 'b']);
    expect(next.layers[4].id).toBe('c');
    const made = next.layers.filter(({ id }) => copies.has(id));
    expect(made).toHaveLength(2);
    expect(made[0].group).toBe(made[1].group);
    expect(made[0].group).not.toBe('g');
    expect(made[0].place.x).toBeGreaterThan(pair.layers[0].place.x);
  });

  it('take a group as one, but nothing that is locked', () => {
    const pair = grouped(three, ids('a', 'c'), 'g');
    expect(takenWith(pair, 'a')).toEqual(ids('a', 'c'));
    expect(takenWith(pair, 'b')).toEqual(ids('b'));
    const locked = design(box('a', 0, 0, 20, { locked: true }));
    expect(takenWith(locked, 'a').size).toBe(0);
  });

  it('move, add and take away without touching the old', () => {
    expect(places(moved(three, ids('b'), { x: 1, y: 2 }))).toEqual([
      [0, 0],
      [31, 7],
      [200, 9],
    ]);
    expect(without(three, ids('b')).layers).toHaveLength(2);
    expect(added(three, { ...three.layers[0], id: 'd' }).layers).toHaveLength(4);
    expect(places(three)[1]).toEqual([30, 5]);
  });
});

describe('aligned', () => {
  it.each([
    ['left', [0, 10, 0]],
    ['centre', [100, 100, 100]],
    ['right', [200, 190, 200]],
  ] as const)('lays layers to the %s of the box round them', (side, xs) => {
    const next = aligned(three, ids('a', 'b', 'c'), side, ctx);
    expect(places(next).map(([x]) => x)).toEqual([...xs]);
    expect(places(next).map(([, y]) => y)).toEqual([0, 5, 9]);
  });

  it('lays a single one to the rest of the mark', () => {
    const next = aligned(three, ids('c'), 'top', ctx);
    expect(places(next)[2]).toEqual([200, 0]);
  });

  it('moves a group as one', () => {
    const pair = grouped(three, ids('a', 'b'), 'g');
    const next = aligned(pair, ids('a', 'b', 'c'), 'right', ctx);
    expect(places(next).map(([x]) => x)).toEqual([160, 190, 200]);
  });
});

describe('spread', () => {
  it('makes the gaps the same and leaves the outermost', () => {
    const next = spread(three, ids('a', 'b', 'c'), 'x', ctx);
    expect(places(next).map(([x]) => x)).toEqual([0, 100, 200]);
  });

  it('leaves two as they are', () => {
    expect(spread(three, ids('a', 'b'), 'x', ctx)).toEqual(three);
  });
});

describe('a layer in the hand', () => {
  const words = design({
    ...{ kind: 'lettering', id: 'w', place: { x: 40, y: 7, turn: 30, scaleX: 2, scaleY: 2 } },
    lettering: { text: 'Quillon', font: font('allura'), align: 'left' },
  }).layers[0];

  it('has a frame that gives it back', () => {
    const frame = layerFrame(words, ctx);
    if (!frame) throw new Error('no frame');
    const again = withFrame(words, frame, ctx);
    expect(again.place.x).toBeCloseTo(40, 6);
    expect(again.place.y).toBeCloseTo(7, 6);
    expect(again.place.scaleX).toBeCloseTo(2, 9);
  });

  it('is turned and sized about its middle', () => {
    const frame = layerFrame(words, ctx);
    if (!frame) throw new Error('no frame');
    const next = withFrame(words, { ...frame, turn: 200, width: frame.width * 3 }, ctx);
    expect(layerFrame(next, ctx)?.centre.x).toBeCloseTo(frame.centre.x, 6);
    expect(next.place.turn).toBe(-160);
    expect(next.place.scaleX).toBeCloseTo(6, 6);
    expect(next.place.scaleY).toBeCloseTo(2, 6);
  });

  it('keeps the strokes of a shape as heavy as they are', () => {
    const ring = design({
      ...{ kind: 'shape', id: 'r' },
      shape: { form: 'ring', width: 100, height: 100, weight: 6 },
    }).layers[0];
    const next = withFrame(
      ring,
      { centre: { x: 5, y: 6 }, width: 300, height: 50, turn: 0 },
      ctx,
    ) as Extract<Layer, { kind: 'shape' }>;
    expect(next.shape).toMatchObject({ width: 300, height: 50, weight: 6 });
    expect(next.place).toMatchObject({ x: 5, y: 6, scaleX: 1, scaleY: 1 });
    expect(frameBox({ centre: { x: 0, y: 0 }, width: 10, height: 4, turn: 90 }).width).toBeCloseTo(
      4,
    );
  });
});

describe('finishes of a layer', () => {
  it('are set once each, and taken off', () => {
    const [glow, shadow] = [defaultFinish('glow'), defaultFinish('shadow')];
    const strong = { ...glow, strength: 1 };
    expect(withFinish(withFinish([glow], shadow), strong)).toEqual([strong, shadow]);
    expect(withoutFinish([glow, shadow], 'glow')).toEqual([shadow]);
  });
});

describe('an arrangement to begin from', () => {
  it.each(ARRANGEMENTS.map(({ key }) => key))('%s shows the name, 1,000 units long', (key) => {
    const begun = arranged(key, { name: 'Ines Marlow', crest: null, newId: numbered() }, ctx);
    const { ink } = measureDesign(begun, ctx) ?? { ink: null };
    expect(Math.max(ink?.width ?? 0, ink?.height ?? 0)).toBeCloseTo(1_000, 0);
    expect((ink?.x ?? 0) + (ink?.width ?? 0) / 2).toBeCloseTo(0, 0);
    expect(JSON.stringify(begun)).toContain('Ines');
    expect(new Set(begun.layers.map(({ id }) => id)).size).toBe(begun.layers.length);
    for (const layer of begun.layers) expect(layer.name).not.toBe('');
  });

  it('takes a name of one word, and a very long one', () => {
    for (const name of ['Ines', 'Quillon Bay Pictures and all who sail with us']) {
      for (const { key } of ARRANGEMENTS) {
        const begun = arranged(key, { name, crest: null, newId: numbered() }, ctx);
        expect(measureDesign(begun, ctx)).not.toBeNull();
      }
    }
  });
});
