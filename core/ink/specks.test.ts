import { describe, expect, it } from 'vitest';
import type { Coverage } from './plane.ts';
import { cleaned } from './specks.ts';

const [WIDTH, HEIGHT] = [200, 120];
const AUTOMATIC = { specks: null, pinholes: null, kept: null };

/** A thick stroke with a soft edge, and whatever else is laid on it. */
function sheet(...marks: readonly [x: number, y: number, w: number, h: number, value: number][]) {
  const data = new Uint8Array(WIDTH * HEIGHT);
  const lay = (x: number, y: number, w: number, h: number, value: number): void => {
    for (let row = y; row < y + h; row++) data.fill(value, row * WIDTH + x, row * WIDTH + x + w);
  };
  lay(20, 49, 160, 18, 20);
  lay(20, 50, 160, 16, 255);
  for (const mark of marks) lay(...mark);
  return { data, width: WIDTH, height: HEIGHT } satisfies Coverage;
}

const at = ({ data }: Coverage, x: number, y: number): number => data[y * WIDTH + x];

describe('specks', () => {
  it('are taken by area, and the dot of an i stays', () => {
    const clean = cleaned(sheet([30, 20, 3, 3, 255], [60, 20, 14, 14, 255]), AUTOMATIC);
    expect(clean.specks).toHaveLength(1);
    expect(clean.specks[0].area).toBe(9);
    expect(at(clean.plane, 31, 21)).toBe(0);
    expect(at(clean.plane, 65, 25)).toBe(255);
  });

  it('are also dots far from all ink, which would stretch the ink box; a dot by a stroke is none', () => {
    const WIDE = 400;
    const data = new Uint8Array(WIDE * HEIGHT);
    const lay = (x: number, y: number, w: number, h: number): void => {
      for (let row = y; row < y + h; row++) data.fill(255, row * WIDE + x, row * WIDE + x + w);
    };
    lay(20, 60, 160, 5);
    lay(100, 30, 4, 4);
    lay(330, 62, 4, 4);
    const plane = { data, width: WIDE, height: HEIGHT };
    const clean = cleaned(plane, AUTOMATIC);
    expect(clean.specks.map(({ box }) => box.x)).toEqual([330]);
    const kept = new Uint8Array(data.length);
    kept[63 * WIDE + 331] = 1;
    expect(cleaned(plane, { ...AUTOMATIC, kept }).specks).toEqual([]);
    expect(cleaned(plane, { ...AUTOMATIC, specks: 10 }).specks).toEqual([]);
  });

  it('keep to the limit that is set', () => {
    const plane = sheet([30, 20, 6, 6, 255]);
    expect(cleaned(plane, { ...AUTOMATIC, specks: 35 }).specks).toHaveLength(0);
    expect(cleaned(plane, { ...AUTOMATIC, specks: 36 }).specks).toHaveLength(1);
  });

  it('are also what never gets dark, and a hair that is thin and grey', () => {
    const clean = cleaned(sheet([20, 90, 150, 5, 90], [20, 10, 150, 1, 180]), AUTOMATIC);
    expect(clean.specks).toHaveLength(2);
  });

  it('but not a hairline that is as dark as the rest', () => {
    const clean = cleaned(sheet([20, 90, 150, 1, 240]), AUTOMATIC);
    expect(clean.specks).toHaveLength(0);
    expect(at(clean.plane, 100, 90)).toBe(240);
  });

  it('are brought back by hand', () => {
    const kept = new Uint8Array(WIDTH * HEIGHT);
    kept[21 * WIDTH + 31] = 1;
    const clean = cleaned(sheet([30, 20, 3, 3, 255]), { ...AUTOMATIC, kept });
    expect(clean.specks).toHaveLength(0);
    expect(at(clean.plane, 31, 21)).toBe(255);
  });
});

it('brings back by hand what is pale all over, in full', () => {
  const pale = sheet([20, 90, 150, 5, 90]);
  expect(at(cleaned(pale, AUTOMATIC).plane, 100, 92)).toBe(0);
  const kept = new Uint8Array(WIDTH * HEIGHT);
  kept[92 * WIDTH + 30] = 1;
  const { plane, specks } = cleaned(pale, { ...AUTOMATIC, kept });
  expect(specks).toHaveLength(0);
  expect(at(plane, 100, 92)).toBe(90);
});

it('keeps the soft edge of ink and drops a smear that runs out of it', () => {
  const { plane } = cleaned(sheet([100, 66, 4, 40, 60]), AUTOMATIC);
  expect(at(plane, 40, 49)).toBe(20);
  expect(at(plane, 101, 67)).toBe(60);
  expect(at(plane, 101, 90)).toBe(0);
});

it('fills pinholes, not the eye of a letter', () => {
  const clean = cleaned(sheet([50, 55, 2, 2, 0], [90, 53, 10, 10, 0]), AUTOMATIC);
  expect(clean.pinholes).toBe(1);
  expect(at(clean.plane, 50, 55)).toBe(255);
  expect(at(clean.plane, 95, 58)).toBe(0);
});
