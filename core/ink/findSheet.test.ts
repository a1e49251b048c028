import { describe, expect, it } from 'vitest';
import { findSheet } from './findSheet.ts';
import type { LinearImage } from './linearImage.ts';

type Light = (x: number, y: number) => number;

function picture(light: Light, width = 240, height = 180): LinearImage {
  const data = new Float32Array(width * height * 3);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      data.fill(light((x + 0.5) / width, (y + 0.5) / height), at, at + 3);
    }
  }
  return { data, width, height };
}

const isOnSheet = (x: number, y: number): boolean =>
  x > 0.2 + 0.05 * y && x < 0.85 && y > 0.12 && y < 0.9 - 0.04 * x;
const grain = (x: number, y: number): number => 1 + 0.02 * Math.sin(x * 900 + y * 1_300);

describe('a sheet on a table', () => {
  const lights: [string, Light][] = [
    ['in even light', (x, y) => (isOnSheet(x, y) ? 0.8 : 0.15)],
    [
      'whose shadow is darker than the table in the light',
      (x, y) => {
        const shade = 1 - 0.75 / (1 + Math.exp(-(x - 0.6) * 18));
        return (isOnSheet(x, y) ? 0.85 : 0.3) * shade;
      },
    ],
    [
      'whose edge curls away softly on one side',
      (x, y) => {
        if (isOnSheet(x, y)) return 0.8;
        const beyond = (x - 0.85) * 240;
        return x >= 0.85 && beyond < 8 ? 0.8 * 0.9 ** beyond : 0.3;
      },
    ],
    [
      'with writing right across',
      (x, y) => (isOnSheet(x, y) ? (Math.abs(y - 0.5) < 0.012 ? 0.04 : 0.8) : 0.15),
    ],
  ];
  it.each(lights)('%s is found with its corners', (_, light) => {
    const found = findSheet(picture((x, y) => light(x, y) * grain(x, y)));
    const corners = found?.corners;
    expect(corners).toBeTruthy();
    const wanted = [
      [0.206, 0.12],
      [0.85, 0.12],
      [0.85, 0.866],
      [0.243, 0.89],
    ];
    corners?.forEach(({ x, y }, index) => {
      expect(Math.hypot(x - wanted[index][0], y - wanted[index][1])).toBeLessThan(0.03);
    });
  });
});

describe('a picture that is all paper has no sheet to find', () => {
  const lights: [string, Light][] = [
    ['even', () => 0.9],
    ['falling off to a side', (x) => 0.95 - 0.8 * x],
    ['with a soft shadow', (x, y) => 0.9 - 0.5 * Math.exp(-((x - 0.5) ** 2 + (y - 0.5) ** 2) * 20)],
    ['with a thick stroke', (x, y) => (Math.hypot(x - 0.5, y - 0.5) < 0.05 ? 0.05 : 0.9)],
  ];
  it.each(lights)('%s', (_, light) => {
    expect(findSheet(picture((x, y) => light(x, y) * grain(x, y)))).toBeNull();
  });
});
