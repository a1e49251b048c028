import { expect, it } from 'vitest';
import type { Raster } from '../pixels.ts';
import { inkBox } from './inkBox.ts';
import { inTone, toneColour } from './tone.ts';

function raster(width: number, height: number, dots: [number, number, number][]): Raster {
  const data = new Uint8ClampedArray(width * height * 4);
  for (const [x, y, alpha] of dots) data.set([9, 8, 7, alpha], (y * width + x) * 4);
  return { data, width, height, channels: 4 };
}

it('is tight round alpha of at least 8', () => {
  const some = raster(10, 8, [
    [2, 3, 8],
    [6, 5, 255],
    [9, 7, 7],
  ]);
  expect(inkBox(some)).toEqual({ x: 2, y: 3, width: 5, height: 3 });
});

it('is null where nothing is visible', () => {
  expect(inkBox(raster(4, 4, [[1, 1, 7]]))).toBeNull();
});

it.each([
  ['light', [255, 255, 255]],
  ['dark', [0, 0, 0]],
  ['#C9a25b', [0xc9, 0xa2, 0x5b]],
] as const)('tone %s gives every colour its own and keeps alpha', (tone, colour) => {
  const some = raster(2, 1, [[0, 0, 90]]);
  const toned = inTone(some, tone);
  expect([...toned.data]).toEqual([...colour, 90, ...colour, 0]);
  expect(some.data[0]).toBe(9);
  expect(toneColour(tone)).toEqual(colour);
});

it('leaves the original tone as it is', () => {
  const some = raster(1, 1, [[0, 0, 5]]);
  expect(inTone(some, 'original')).toBe(some);
});
