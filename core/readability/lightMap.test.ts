import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import type { Pixels } from '../pixels.ts';
import { lightness } from './lightness.ts';
import { BYTES_PER_LIGHTNESS, LIGHT_MAP_LONG_SIDE, lightMap, meanLightness } from './lightMap.ts';

describe('lightness', () => {
  it.each([
    [0, 0, 0, 0],
    [255, 255, 255, 100],
    [119, 119, 119, 50.03],
    [255, 0, 0, 53.24],
    [0, 255, 0, 87.73],
    [0, 0, 255, 32.3],
  ])('of %d, %d, %d is %d', (r, g, b, expected) => {
    expect(lightness(r, g, b)).toBeCloseTo(expected, 1);
  });

  it('agrees with an independent conversion', () => {
    const toLab = converter('lab65');
    for (let step = 0; step < 256; step += 15) {
      const blue = ((step * 7) % 256) / 255;
      const expected = toLab({ mode: 'rgb', r: step / 255, g: (255 - step) / 255, b: blue }).l;
      expect(Math.abs(lightness(step, 255 - step, (step * 7) % 256) - expected)).toBeLessThan(0.1);
    }
  });
});

describe('lightMap', () => {
  function halves(width: number, height: number): Pixels {
    const data = new Uint8ClampedArray(width * height * 3);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++)
        data.fill(x < width / 2 ? 0 : 255, (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
    return { data, width, height, channels: 3 };
  }

  it('keeps the proportions of the photo', () => {
    const map = lightMap(halves(1200, 400));
    expect([map.width, map.height]).toEqual([LIGHT_MAP_LONG_SIDE, 21]);
    expect(map.cells).toHaveLength(map.width * map.height * 2);
  });

  it('holds mean and spread of each cell', () => {
    const map = lightMap(halves(1280, 640));
    expect(map.cells[0]).toBe(0);
    expect(map.cells[(map.width - 1) * 2]).toBe(Math.round(100 * BYTES_PER_LIGHTNESS));
    expect(Math.max(...map.cells.filter((_, at) => at % 2 === 1))).toBe(0);
  });

  it('of a part has the cells of the whole, and no others', () => {
    const photo = halves(1280, 640);
    photo.data.forEach((_, at) => (photo.data[at] = (at * 7919) % 251));
    const whole = lightMap(photo);
    // Whole cells of 20 px, from the seventh across and the third down.
    const [left, top, width, height] = [140, 60, 200, 100];
    const rows = Array.from({ length: height }, (_, y) => {
      const from = ((top + y) * 1280 + left) * 3;
      return [...photo.data.subarray(from, from + width * 3)];
    });
    const data = Uint8ClampedArray.from(rows.flat());
    const part = lightMap({ data, width, height, channels: 3 }, { left, top, size: photo });
    expect([part.width, part.height]).toEqual([whole.width, whole.height]);
    for (let y = 0, at = 0; y < whole.height; y++) {
      for (let x = 0; x < whole.width; x++, at += 2) {
        const isIn = x >= 7 && x < 17 && y >= 3 && y < 8;
        expect(part.cells[at]).toBe(isIn ? whole.cells[at] : 0);
        expect(part.cells[at + 1]).toBe(isIn ? whole.cells[at + 1] : 0);
      }
    }
  });

  it('knows how light the whole photo is', () => {
    expect(meanLightness(lightMap(halves(1280, 640)))).toBeCloseTo(50, 6);
  });

  it('sees a busy cell as spread', () => {
    const data = Uint8ClampedArray.from(
      { length: 256 * 256 * 3 },
      (_, at) => (Math.floor(at / 3) % 2) * 255,
    );
    const map = lightMap({ data, width: 256, height: 256, channels: 3 });
    expect(map.cells[1] / BYTES_PER_LIGHTNESS).toBeCloseTo(50, 0);
  });

  it('takes a photo smaller than the map as it is', () => {
    expect(lightMap(halves(10, 4))).toMatchObject({ width: 10, height: 4 });
  });
});
