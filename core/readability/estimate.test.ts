import { describe, expect, it } from 'vitest';
import type { Coverage } from '../ink/plane.ts';
import type { Copy } from '../placement/placeMark.ts';
import { blendedLightness, estimatedShare, inkPoints } from './estimate.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';

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

const share = (ground: LightMap, colour: string, opacity = 1, at = copy(100, 100)): number =>
  estimatedShare(ground, FRAME, at, points, blendedLightness(colour, opacity));

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
    expect(Math.abs(blendedLightness('#ffffff', 0).whole[ground] - 30)).toBeLessThan(1);
    expect(blendedLightness('#ffffff', 1).whole[ground]).toBeCloseTo(100, 3);
    const half = blendedLightness('#ffffff', 0.5);
    expect(half.whole[ground]).toBeGreaterThan(50);
    expect(half.edge[ground]).toBeLessThan(half.whole[ground]);
  });
});

describe('estimatedShare', () => {
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
});
