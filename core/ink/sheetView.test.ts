import { describe, expect, it } from 'vitest';
import { DEFAULT_LIFT, type QuarterTurn } from '../contract/lift.ts';
import type { Pixels } from '../pixels.ts';
import { sheetView, viewPixels } from './sheetView.ts';

/** Each pixel's red is its number, so that where it went can be told. */
function numbered(width: number, height: number): Pixels {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let at = 0; at < width * height; at++) data.fill(at, at * 3, at * 3 + 3);
  return { data, width, height, channels: 3 };
}

function numbersIn({ data }: Pixels): number[] {
  return Array.from({ length: data.length / 3 }, (_, at) => data[at * 3]);
}

describe('quarter turns, clockwise', () => {
  const cases: [QuarterTurn, number, number[]][] = [
    [0, 3, [0, 1, 2, 3, 4, 5]],
    [90, 2, [3, 0, 4, 1, 5, 2]],
    [180, 3, [5, 4, 3, 2, 1, 0]],
    [270, 2, [2, 5, 1, 4, 0, 3]],
  ];
  it.each(cases)('%d°', (turn, width, numbers) => {
    const photo = numbered(3, 2);
    const seen = viewPixels(photo, sheetView(photo, { ...DEFAULT_LIFT, turn }));
    expect(seen.width).toBe(width);
    expect(numbersIn(seen)).toEqual(numbers);
  });
});

it('crops the turned sheet in whole pixels', () => {
  const photo = numbered(4, 4);
  const crop = { x: 0.5, y: 0.25, width: 0.5, height: 0.5 };
  const seen = viewPixels(photo, sheetView(photo, { ...DEFAULT_LIFT, turn: 90, crop }));
  // Turned: rows 12 8 4 0 / 13 9 5 1 / 14 10 6 2 / 15 11 7 3.
  expect(numbersIn(seen)).toEqual([5, 1, 6, 2]);
});

it('never crops to nothing, nor beyond the sheet', () => {
  const photo = numbered(10, 8);
  const tiny = sheetView(photo, { ...DEFAULT_LIFT, crop: { x: 1, y: 1, width: 0, height: 0 } });
  expect(tiny.crop).toEqual({ x: 9, y: 7, width: 1, height: 1 });
  const wide = sheetView(photo, { ...DEFAULT_LIFT, crop: { x: 0.5, y: 0, width: 1, height: 1 } });
  expect(wide.crop).toEqual({ x: 5, y: 0, width: 5, height: 8 });
});

it('straightens a slanting sheet: its corners become the view’s', () => {
  const [width, height] = [80, 60];
  const corners = [
    { x: 0.2, y: 0.15 },
    { x: 0.85, y: 0.25 },
    { x: 0.8, y: 0.9 },
    { x: 0.1, y: 0.8 },
  ] as const;
  const data = new Uint8ClampedArray(width * height * 3);
  const inside = (x: number, y: number): boolean =>
    corners.every((a, index) => {
      const b = corners[(index + 1) % 4];
      return (
        (b.x - a.x) * width * (y - a.y * height) - (b.y - a.y) * height * (x - a.x * width) > 0
      );
    });
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      data.fill(inside(x + 0.5, y + 0.5) ? 240 : 20, (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
  }
  const photo: Pixels = { data, width, height, channels: 3 };
  const settings = { ...DEFAULT_LIFT, corners: [...corners] as typeof DEFAULT_LIFT.corners };
  const seen = viewPixels(photo, sheetView(photo, settings));
  const dark = numbersIn(seen).filter((value) => value < 130).length;
  // Only pixels that the sheet's edge runs through may be dark.
  expect(dark / (seen.width * seen.height)).toBeLessThan(0.03);
  expect(seen.width).toBeGreaterThan(seen.height);
});

it('turns by a fine angle about the middle', () => {
  const photo = numbered(9, 9);
  const seen = viewPixels(photo, sheetView(photo, { ...DEFAULT_LIFT, angle: 7 }));
  expect(numbersIn(seen)[40]).toBe(40);
  expect(seen.width).toBe(9);
});
