import { describe, expect, it } from 'vitest';
import type { Box } from '../placement/geometry.ts';
import { cellFrame, differenceOutside, differencesOf, scaledBox } from './cells.ts';
import { findMarks } from './findMarks.ts';
import { codecLimit, isWithin, unknownLimit } from './limits.ts';
import { fileSchema } from '../contract/delivery.ts';

const WIDTH = 300;
const HEIGHT = 200;

/** Noise as a codec leaves it, with boxes that differ by more. */
function differences(boxes: readonly (Box & { readonly by?: number })[], noise = 2) {
  let seed = 7;
  const data = Uint8Array.from({ length: WIDTH * HEIGHT }, () => {
    seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
    return (seed >> 16) % (noise + 1);
  });
  for (const { x, y, width, height, by = 60 } of boxes) {
    for (let row = y; row < y + height; row++) {
      data.fill(by, row * WIDTH + x, row * WIDTH + x + width);
    }
  }
  return { data, width: WIDTH, height: HEIGHT };
}

const FLAT = new Uint8Array(WIDTH * HEIGHT);
function found(some: ReturnType<typeof differences>, most?: number) {
  const { boxes, ...rest } = findMarks(some, FLAT, most);
  return { ...rest, boxes, box: boxes.at(0) ?? null };
}

const MARK = { x: 240, y: 170, width: 50, height: 20 };

describe('the mark of an output', () => {
  it('is where it differs most, and the rest is noise', () => {
    const { box, elsewhere } = found(differences([MARK]));
    expect(box).toEqual(MARK);
    expect(elsewhere.mean).toBeLessThan(2);
    expect(elsewhere.worst).toBeLessThanOrEqual(2);
  });

  it('has words and copies of its own, also where the edge cuts them off', () => {
    const words = [
      { ...MARK, width: 22 },
      { ...MARK, x: 266, width: 24 },
    ];
    expect(found(differences(words)).box).toEqual(MARK);
    const copies = [MARK, { ...MARK, x: 20, y: 30 }, { ...MARK, x: 0, y: 100, width: 9 }];
    const { box, elsewhere } = found(differences(copies));
    expect(box).toEqual({ x: 0, y: 30, width: 290, height: 160 });
    expect(elsewhere.worst).toBeLessThanOrEqual(2);
  });

  it('has words as far apart as they are large, the next of them after the next', () => {
    const word = { x: 150, y: 170, width: 14, height: 12 };
    const words = [word, { ...word, x: 188 }, { ...word, x: 226 }];
    const { box, others } = found(differences(words));
    expect(box).toEqual({ ...word, width: 90 });
    expect(others).toBe(0);
    const apart = found(differences([word, { ...word, x: 200, width: 20, by: 90 }]));
    expect([apart.box?.x, apart.others]).toEqual([200, 1]);
  });

  it('is one of several, where so many were laid', () => {
    const second = { x: 20, y: 10, width: 30, height: 30, by: 80 };
    const copies = [second, { ...second, x: 120, y: 60 }];
    const third = { x: 10, y: 150, width: 12, height: 8 };
    const all = differences([MARK, ...copies, third]);
    const around = { x: 20, y: 10, width: 130, height: 80 };
    expect(found(all, 3)).toMatchObject({ boxes: [around, MARK, third], others: 0 });
    expect(found(all, 8).boxes).toHaveLength(3);
    expect(found(all, 3).elsewhere.worst).toBeLessThanOrEqual(2);
    expect(found(all, 2)).toMatchObject({ boxes: [around, MARK], others: 1 });
    expect(found(all)).toMatchObject({ boxes: [around], others: 2 });
    expect(found(differences([]), 3).boxes).toEqual([]);
  });

  it('is not what else was changed', () => {
    const other = { x: 40, y: 40, width: 12, height: 12, by: 80 };
    const { box, elsewhere } = found(differences([MARK, other]));
    expect(box).toEqual(MARK);
    expect(elsewhere.worst).toBe(80);
  });

  it('is none where nothing differs, or single cells at hard edges', () => {
    expect(found(differences([])).box).toBeNull();
    expect(found(differences([{ x: 9, y: 9, width: 1, height: 2 }])).box).toBeNull();
  });

  it('is found where the codec is coarse, unless it is fainter than that', () => {
    expect(found(differences([{ ...MARK, by: 90 }], 12)).box).toEqual(MARK);
    expect(found(differences([{ ...MARK, by: 15 }], 12)).box).toBeNull();
  });
});

describe('cells', () => {
  it('are fewer than pixels, and as many for photos of any size', () => {
    expect(cellFrame({ width: 6_000, height: 4_000 })).toEqual({ width: 750, height: 500 });
    expect(cellFrame({ width: 1_365, height: 2_048 })).toEqual({ width: 683, height: 1_024 });
    expect(cellFrame({ width: 100, height: 50 })).toEqual({ width: 100, height: 50 });
    expect(cellFrame({ width: 9_000, height: 3 })).toEqual({ width: 1_125, height: 1 });
  });

  it('differ by the most of their colours, with or without alpha', () => {
    const some = {
      data: Uint8ClampedArray.of(9, 20, 30),
      width: 1,
      height: 1,
      channels: 3 as const,
    };
    const other = {
      ...{ data: Uint8ClampedArray.of(10, 20, 80, 255), width: 1, height: 1, channels: 4 as const },
    };
    expect([...differencesOf(some, other).data]).toEqual([50]);
  });

  it('count outside of boxes, which may reach over the edge', () => {
    const all = { x: -5, y: -5, width: WIDTH + 10, height: HEIGHT + 10 };
    expect(differenceOutside(differences([MARK]), [all])).toEqual({ mean: 0, worst: 0 });
    const beside = { ...MARK, x: 500 };
    expect(differenceOutside(differences([MARK]), [beside]).worst).toBe(60);
    const from = { width: 100, height: 50 };
    expect(
      scaledBox({ x: 10, y: 10, width: 20, height: 5 }, from, { width: 50, height: 25 }),
    ).toEqual({ x: 5, y: 5, width: 10, height: 2.5 });
  });
});

it('codecs may lose more at low quality, and nothing where they lose nothing', () => {
  const at = (file: object, cellPx = 8) => codecLimit(fileSchema.parse(file), cellPx);
  expect(at({ quality: 88 })).toEqual(at({ quality: 'untouched' }));
  expect(at({ quality: 10 }).worst).toBeGreaterThan(at({ quality: 40 }).worst);
  expect(at({ max_bytes: 20_000 }).mean).toBeGreaterThan(at({ quality: 60 }).mean);
  expect(isWithin({ mean: 0.4, worst: 3 }, at({ type: 'tiff' }))).toBe(true);
  expect(isWithin({ mean: 0.4, worst: 30 }, at({ type: 'png' }))).toBe(false);
});

it('codecs may lose more of cells in which it evens out less, those without loss no more', () => {
  const at = (type: string, cellPx: number) => codecLimit(fileSchema.parse({ type }), cellPx);
  expect(at('jpeg', 4)).toEqual(at('jpeg', 8));
  expect(at('jpeg', 1).mean).toBe(4 * at('jpeg', 8).mean);
  expect(at('png', 1)).toEqual(at('png', 8));
});

it('more may be lost of small photos of which nothing is known', () => {
  const found = { mean: 12, worst: 132 };
  expect(isWithin(found, unknownLimit({ width: 319, height: 200 }))).toBe(true);
  expect(isWithin(found, unknownLimit({ width: 200, height: 320 }))).toBe(false);
});
