import { describe, expect, it } from 'vitest';
import type { Coverage } from '../ink/plane.ts';
import type { Copy } from '../placement/placeMark.ts';
import { rgbOf } from '../colour/hex.ts';
import { blendedLightness, rescuedGround } from './blendedLightness.ts';
import { GroundLook } from './groundLook.ts';
import { inkPoints } from './inkPoints.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';

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

function copy(x: number, y: number, rotation = 0): Copy {
  const box = { x, y, width: 300, height: 100 };
  return { box, size: { width: 300, height: 100 }, rotation };
}

function share(ground: LightMap, colour: string, opacity = 1, at = copy(100, 100)): number {
  const looked = new GroundLook(1);
  looked.look(ground, FRAME, [at], points, [blendedLightness(rgbOf(colour), opacity)]);
  return looked.shares[0];
}

describe('inkPoints', () => {
  it('lie where the ink is, and weigh 1 together', () => {
    const left = new Uint8Array(200 * 100).map((_, at) => (at % 200 < 50 ? 255 : 0));
    const { values } = inkPoints({ data: left, width: 200, height: 100 });
    let weight = 0;
    for (let at = 0; at < values.length; at += 3) {
      expect(values[at]).toBeLessThan(-0.24);
      weight += values[at + 2];
    }
    expect(weight).toBeCloseTo(1, 6);
  });

  it('tell how much of thin strokes is edge', () => {
    const soft = new Uint8Array(300 * 100).map((_, at) => (at % 3 === 0 ? 180 : 255));
    expect(points.edge).toBe(0);
    expect(inkPoints({ data: soft, width: 300, height: 100 }).edge).toBeCloseTo(100, 0);
  });
});

describe('blendedLightness', () => {
  it('goes from the ground to the ink with opacity', () => {
    const ground = Math.round(30 * BYTES_PER_LIGHTNESS);
    expect(Math.abs(blendedLightness(WHITE, 0).whole[ground] - 30)).toBeLessThan(1);
    expect(blendedLightness(WHITE, 1).whole[ground]).toBeCloseTo(100, 3);
    const half = blendedLightness(WHITE, 0.5);
    expect(half.whole[ground]).toBeGreaterThan(50);
    expect(half.edge[ground]).toBeLessThan(half.whole[ground]);
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

  it('looks at several tones at once, and at the best of several copies', () => {
    const looked = new GroundLook(2);
    const tones = ['#ffffff', '#000000'].map((colour) => blendedLightness(rgbOf(colour), 1));
    const copies = [copy(100, 100), copy(800, 100)];
    looked.look(map(95, 0, 10), FRAME, copies, points, tones);
    expect([...looked.shares]).toEqual([1, 1]);
    looked.look(map(95, 0, 10), FRAME, copies.slice(0, 1), points, tones);
    expect([...looked.shares]).toEqual([0, 1]);
    expect(looked.lightness).toBeCloseTo(95, 0);
  });

  it('sees a ground calmed and turned by a rescue', () => {
    const looked = new GroundLook(1);
    const white = [blendedLightness(WHITE, 1)];
    looked.look(map(90, 20), FRAME, [copy(100, 100)], points, white);
    expect(looked.shares[0]).toBe(0);
    looked.look(map(90, 20), FRAME, [copy(100, 100)], points, white, rescuedGround([0, 0, 0], 0.8));
    expect(looked.shares[0]).toBe(1);
    expect(looked.bustle).toBeLessThan(5);
  });

  it('knows that a mark multiplied into a photo cannot brighten it', () => {
    const looked = new GroundLook(1);
    looked.look(map(40), FRAME, [copy(100, 100)], points, [blendedLightness(WHITE, 1, 'multiply')]);
    expect(looked.shares[0]).toBe(0);
  });
});
