import { describe, expect, it } from 'vitest';
import { byteOfLinear, encodedLight, LINEAR_OF_BYTE, linearLight } from '../colour/linearLight.ts';
import type { Pixels } from '../pixels.ts';
import { coverage } from './coverage.ts';
import { channelWeights, inkColour } from './inkColour.ts';
import { automaticLevels, HISTOGRAM_BINS, reflectanceHistogram } from './levels.ts';
import { reducedLinear } from './linearImage.ts';
import { REFLECTANCE_ONE, type Reflectance } from './plane.ts';
import { onWhitePaper, reflectance } from './reflectance.ts';

describe('linear light', () => {
  it('has the values of IEC 61966-2-1', () => {
    expect(linearLight(0.5)).toBeCloseTo(0.214_041, 5);
    expect(linearLight(0.02)).toBeCloseTo(0.001_548, 6);
    expect(encodedLight(0.214_041)).toBeCloseTo(0.5, 5);
  });

  it('goes back to the byte it came from', () => {
    for (let value = 0; value < 256; value++) {
      expect(byteOfLinear(LINEAR_OF_BYTE[value])).toBe(value);
    }
    expect([byteOfLinear(-1), byteOfLinear(NaN), byteOfLinear(7)]).toEqual([0, 0, 255]);
  });
});

describe('reducedLinear', () => {
  it('averages light, not encoded values', () => {
    const data = Uint8ClampedArray.from([255, 255, 255, 0, 0, 0]);
    const { data: light } = reducedLinear({ data, width: 2, height: 1, channels: 3 }, 1);
    expect(light[0]).toBeCloseTo(0.5, 6);
  });

  it('takes transparent parts for white paper', () => {
    const data = Uint8ClampedArray.from([0, 0, 0, 0]);
    const { data: light } = reducedLinear({ data, width: 1, height: 1, channels: 4 }, 10);
    expect([...light]).toEqual([1, 1, 1]);
  });

  it('keeps a small picture’s size, and makes the last blocks of a large one whole', () => {
    const picture = (width: number, height: number): Pixels => ({
      ...{ width, height, channels: 3 },
      data: new Uint8ClampedArray(width * height * 3).fill(188),
    });
    expect(reducedLinear(picture(7, 5), 100)).toMatchObject({ width: 7, height: 5 });
    const reduced = reducedLinear(picture(103, 50), 10);
    expect(reduced).toMatchObject({ width: 10, height: 5 });
    for (const value of reduced.data) expect(value).toBeCloseTo(linearLight(188 / 255), 4);
  });
});

/** A row of pixels over paper that gets darker to the right, and redder. */
const sheet = { width: 60, height: 4 };
function paperAt(x: number): [number, number, number] {
  return [0.9 - x * 0.008, 0.8 - x * 0.008, 0.6 - x * 0.006];
}
const field = {
  ...sheet,
  data: Float32Array.from({ length: 60 * 4 * 3 }, (_, at) => {
    return paperAt(Math.floor(at / 3) % 60)[at % 3];
  }),
};
const place = {
  ...{ field, sheet, crop: { x: 0, y: 0, ...sheet } },
  outside: new Uint8Array(60 * 4),
};
const pixels: Pixels = {
  ...{ width: 60, height: 4, channels: 3 },
  data: Uint8ClampedArray.from({ length: 60 * 4 * 3 }, (_, at) => {
    const x = Math.floor(at / 3) % 60;
    return byteOfLinear(paperAt(x)[at % 3] * (x % 10 === 5 ? 0.25 : 1));
  }),
};

describe('reflectance', () => {
  it('is 1 on bare paper and the ink’s share on ink, wherever the light is', () => {
    const { data } = reflectance(pixels, place, [0.3, 0.4, 0.3]);
    for (let x = 0; x < 60; x++) {
      const value = data[60 + x] / REFLECTANCE_ONE;
      expect(value).toBeCloseTo(x % 10 === 5 ? 0.25 : 1, 1);
    }
  });

  it('is that of paper where there is no sheet', () => {
    const outside = new Uint8Array(60 * 4);
    outside.fill(1, 60, 120);
    const { data } = reflectance(pixels, { ...place, outside }, [1, 0, 0]);
    expect(data[60 + 5]).toBe(REFLECTANCE_ONE);
    expect(data[5]).toBeLessThan(REFLECTANCE_ONE / 3);
  });

  it('makes paper white and keeps the ink’s colour', () => {
    const { data } = onWhitePaper(pixels, place, 0.97);
    expect([...data.subarray(0, 3)]).toEqual([255, 255, 255]);
    const ink = byteOfLinear(0.25 / 0.97);
    for (const value of data.subarray(15, 18)) expect(Math.abs(value - ink)).toBeLessThan(4);
  });
});

describe('ink colour', () => {
  it('weighs channels by how much the ink darkens them', () => {
    expect(channelWeights([0.1, 0.1, 0.1]).map((weight) => weight * 3)).toEqual([
      expect.closeTo(1),
      expect.closeTo(1),
      expect.closeTo(1),
    ]);
    const [red, , blue] = channelWeights([0.05, 0.2, 0.8]);
    expect(red).toBeGreaterThan(4 * blue);
    expect(channelWeights([1, 1, 1]).reduce((a, b) => a + b)).toBeCloseTo(1, 6);
  });

  it('is found on the sheet, and not where there is none', () => {
    const blue = Float32Array.from(field.data, (value, at) =>
      Math.floor(at / 3) % 12 === 3 ? value * [0.1, 0.2, 0.6][at % 3] : value,
    );
    const found = inkColour({ ...sheet, data: blue }, field, place.outside);
    expect(found?.[0]).toBeCloseTo(0.1, 3);
    expect(found?.[2]).toBeCloseTo(0.6, 3);
    expect(inkColour(field, field, place.outside)).toBeNull();
  });
});

function plane(values: readonly number[], width: number): Reflectance {
  const data = Uint16Array.from(values, (value) => Math.round(value * REFLECTANCE_ONE));
  return { data, width, height: values.length / width };
}

describe('levels', () => {
  const grain = (at: number): number => ((at * 7_919) % 13) / 13 / 40 - 0.012;
  const withStroke = (depth: number) =>
    plane(
      Array.from({ length: 100 * 60 }, (_, at) => {
        const y = Math.floor(at / 100);
        return (y > 25 && y < 36 ? depth : 1) + grain(at);
      }),
      100,
    );

  it.each([0.04, 0.2, 0.45])('finds paper near 1 and solid ink at %d', (depth) => {
    const sheetPlane = withStroke(depth);
    const levels = automaticLevels(sheetPlane, reflectanceHistogram(sheetPlane));
    expect(levels?.ink).toBeCloseTo(depth, 1);
    expect(levels?.paper).toBeGreaterThan(0.93);
    expect(levels?.paper).toBeLessThan(1);
  });

  it('finds none on bare paper', () => {
    const bare = withStroke(1);
    expect(automaticLevels(bare, reflectanceHistogram(bare))).toBeNull();
  });

  it('counts every pixel once, the brightest in the last bin', () => {
    const histogram = reflectanceHistogram(plane([0, 0.5, 1, 1.9], 4));
    expect(histogram).toHaveLength(HISTOGRAM_BINS);
    expect(histogram.reduce((a, b) => a + b)).toBe(4);
    expect(histogram[HISTOGRAM_BINS - 1]).toBe(1);
  });

  it('make coverage by linear mixing', () => {
    const { data } = coverage(plane([0.05, 0.1, 0.5, 0.9, 1.2], 5), { ink: 0.1, paper: 0.9 });
    expect([...data]).toEqual([255, 255, 128, 0, 0]);
  });
});
