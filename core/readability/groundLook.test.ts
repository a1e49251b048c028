import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Coverage } from '../ink/plane.ts';
import type { Copy } from '../placement/placeMark.ts';
import { rgbOf } from '../colour/hex.ts';
import { blendedLightness, rescuedGround, type SeenGround } from './blendedLightness.ts';
import { GroundLook } from './groundLook.ts';
import { inkPoints, POINT, POINT_NUMBERS, type InkPoints } from './inkPoints.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';
import { classOf } from './measure.ts';
import { PointWindows } from './pointWindows.ts';

const WHITE = [255, 255, 255] as const;
const FRAME = { width: 1_200, height: 800 };

/** A photo of one lightness and spread, or of another in its right half. */
function map(lightness: number, spread = 0, right = lightness): LightMap {
  const [width, height] = [128, 85];
  const cells = new Uint8Array(width * height * 2);
  for (let cell = 0; cell < width * height; cell++) {
    const l = cell % width < width / 2 ? lightness : right;
    cells[cell * 2] = Math.round(l * BYTES_PER_LIGHTNESS);
    cells[cell * 2 + 1] = Math.round(spread * BYTES_PER_LIGHTNESS);
  }
  return { cells, width, height };
}

const BLOCK: Coverage = { data: new Uint8Array(300 * 100).fill(255), width: 300, height: 100 };
const points = inkPoints(BLOCK);
/** A block with a line under it. */
const EMBLEM: Coverage = {
  data: Uint8Array.from({ length: 300 * 100 }, (_, at) => {
    const [x, y] = [at % 300, Math.floor(at / 300)];
    return (y < 70 && x > 50 && x < 250) || (y >= 94 && x >= 200) ? 255 : 0;
  }),
  ...{ width: 300, height: 100 },
};

function copy(x: number, y: number, rotation = 0): Copy {
  const box = { x, y, width: 300, height: 100 };
  return { box, size: { width: 300, height: 100 }, rotation };
}

function look(
  looked: GroundLook,
  ground: LightMap,
  copies: readonly Copy[],
  its: InkPoints = points,
  seen?: SeenGround,
): void {
  const windows = new PointWindows();
  windows.lay(ground, FRAME, copies, its);
  looked.look(ground, windows, seen);
}

function share(ground: LightMap, colour: string, opacity = 1, at = copy(100, 100)): number {
  const looked = new GroundLook();
  look(looked, ground, [at]);
  return read(looked, blendedLightness(rgbOf(colour), opacity));
}

function read(looked: GroundLook, ink: Float32Array): number {
  looked.read(ink);
  return looked.share;
}

const BLACK_INK = blendedLightness([0, 0, 0], 1);
const WHITE_INK = blendedLightness(WHITE, 1);

describe('inkPoints', () => {
  it('lie where the ink is, and weigh 1 together', () => {
    const left = new Uint8Array(200 * 100).map((_, at) => (at % 200 < 50 ? 255 : 0));
    const { values } = inkPoints({ data: left, width: 200, height: 100 });
    let weight = 0;
    for (let at = 0; at < values.length; at += POINT_NUMBERS) {
      expect(values[at]).toBeLessThan(-0.24);
      weight += values[at + POINT.weight];
    }
    expect(weight).toBeCloseTo(1, 6);
  });

  it('tell how much of thin strokes is edge', () => {
    const soft = new Uint8Array(300 * 100).map((_, at) => (at % 3 === 0 ? 180 : 255));
    expect(points.values[POINT.edge]).toBe(0);
    const { values } = inkPoints({ data: soft, width: 300, height: 100 });
    expect(values[POINT.edge]).toBeCloseTo(100, 0);
  });

  it('look at small words as closely as at a big emblem', () => {
    const { values } = inkPoints(EMBLEM);
    const parts = [0, 0];
    const weights = [0, 0];
    for (let at = 0; at < values.length; at += POINT_NUMBERS) {
      parts[values[at + POINT.part]]++;
      weights[values[at + POINT.part]] += values[at + POINT.weight];
    }
    expect(Math.min(...parts)).toBeGreaterThan(5);
    expect(Math.min(...weights)).toBeLessThan(0.06);
    expect(weights[0] + weights[1]).toBeCloseTo(1, 5);
  });
});

describe('blendedLightness', () => {
  it('goes from the ground to the ink with opacity', () => {
    const ground = Math.round(30 * BYTES_PER_LIGHTNESS);
    expect(Math.abs(blendedLightness(WHITE, 0)[ground] - 30)).toBeLessThan(1);
    expect(blendedLightness(WHITE, 1)[ground]).toBeCloseTo(100, 3);
    const half = blendedLightness(WHITE, 0.5);
    expect(half[ground]).toBeGreaterThan(50);
  });
});

describe('GroundLook', () => {
  it('finds light on dark clear and light on light lost', () => {
    expect(share(map(10), '#ffffff')).toBeCloseTo(1, 6);
    expect(share(map(98), '#ffffff')).toBe(0);
    expect(share(map(98), '#000000')).toBeCloseTo(1, 6);
  });

  it('loses ink on busy ground, and faint ink', () => {
    expect(share(map(50, 40), '#ffffff')).toBe(0);
    expect(share(map(40), '#ffffff', 0.08)).toBe(0);
  });

  it('loses thin strokes bit by bit as they get fainter, since their edges cover less', () => {
    const soft = new Uint8Array(300 * 100).fill(180);
    const looked = new GroundLook();
    const thin = inkPoints({ data: soft, width: 300, height: 100 });
    look(looked, map(40), [copy(100, 100)], thin);
    const shares = [0.5, 0.35, 0.3, 0.25, 0.1].map((opacity) =>
      read(looked, blendedLightness(WHITE, opacity)),
    );
    expect(shares[0]).toBeCloseTo(1, 6);
    expect(shares.at(-1)).toBe(0);
    const between = shares.slice(1, -1);
    expect([...between].sort((a, b) => b - a)).toEqual(between);
    expect(Math.max(...between)).toBeLessThan(1);
    expect(Math.min(...between)).toBeGreaterThan(0);
  });

  it('counts the part of the mark that lies on the better side', () => {
    const across = copy(FRAME.width / 2 - 150, 100);
    const found = share(map(10, 0, 99), '#ffffff', 1, across);
    expect(found).toBeGreaterThan(0.35);
    expect(found).toBeLessThan(0.65);
  });

  it('turns with the mark', () => {
    // Upright in the dark half, lying across both.
    const at = copy(FRAME.width / 2 - 200, 300);
    const lying = share(map(10, 0, 99), '#ffffff', 1, at);
    const upright = share(map(10, 0, 99), '#ffffff', 1, { ...at, rotation: 90 });
    expect(upright).toBeGreaterThan(lying);
  });

  it('has no answer where the mark is beside the photo', () => {
    expect(share(map(10), '#ffffff', 1, copy(-900, 100))).toBe(-1);
  });

  it('reads several tones on one ground, and looks at the best of several copies', () => {
    const looked = new GroundLook();
    const copies = [copy(100, 100), copy(800, 100)];
    look(looked, map(95, 0, 10), copies);
    expect(read(looked, WHITE_INK)).toBeCloseTo(1, 6);
    expect(read(looked, BLACK_INK)).toBeCloseTo(1, 6);
    look(looked, map(95, 0, 10), copies.slice(0, 1));
    expect(read(looked, WHITE_INK)).toBe(0);
    expect(read(looked, BLACK_INK)).toBeCloseTo(1, 6);
    expect(looked.lightness).toBeCloseTo(95, 0);
  });

  it('sees a ground calmed and turned by a rescue', () => {
    const looked = new GroundLook();
    look(looked, map(90, 20), [copy(100, 100)]);
    expect(read(looked, WHITE_INK)).toBe(0);
    look(looked, map(90, 20), [copy(100, 100)], points, rescuedGround([0, 0, 0], 0.8));
    expect(read(looked, WHITE_INK)).toBeCloseTo(1, 6);
    expect(looked.bustle).toBeLessThan(5);
  });

  it('knows that a mark multiplied into a photo cannot brighten it', () => {
    const looked = new GroundLook();
    look(looked, map(40), [copy(100, 100)]);
    expect(read(looked, blendedLightness(WHITE, 1, 'multiply'))).toBe(0);
  });

  it('tells how the part reads that reads worst', () => {
    const looked = new GroundLook();
    // The line under the emblem lies on the bright side.
    look(looked, map(10, 0, 99), [copy(400, 300)], inkPoints(EMBLEM));
    expect(read(looked, WHITE_INK)).toBeGreaterThan(0.65);
    expect(looked.weakest).toBeLessThan(0.35);
    look(looked, map(10), [copy(400, 300)], inkPoints(EMBLEM));
    expect(read(looked, WHITE_INK)).toBeCloseTo(1, 6);
    expect(looked.weakest).toBeCloseTo(1, 6);
  });
});

describe('a reading that is only wanted where it is clear', () => {
  it('is clear, with the same numbers, wherever the whole one is', () => {
    const shade = fc.integer({ min: 0, max: 100 });
    const place = fc.integer({ min: -200, max: 1_150 });
    const emblem = inkPoints(EMBLEM);
    let clear = 0;
    fc.assert(
      fc.property(
        ...([shade, shade, fc.integer({ min: 0, max: 9 }), place, place] as const),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        (left, right, spread, x, other, opacity) => {
          const looked = new GroundLook();
          look(looked, map(left, spread, right), [copy(x, 300), copy(other, 500)], emblem);
          const ink = blendedLightness(WHITE, opacity);
          looked.read(ink);
          const whole = { share: looked.share, contrast: looked.contrast, weakest: looked.weakest };
          looked.read(ink, true);
          const { share, contrast, weakest } = looked;
          const isClear = classOf(whole.share, whole.weakest) === 'clear';
          expect(classOf(share, weakest) === 'clear').toBe(isClear);
          if (!isClear) return;
          clear++;
          expect({ share, contrast, weakest }).toEqual(whole);
        },
      ),
      { numRuns: 400 },
    );
    expect(clear).toBeGreaterThan(50);
  });
});
