import { describe, expect, it } from 'vitest';
import type { Pixels, Raster } from '../pixels.ts';
import type { Rgb } from '../colour/hex.ts';
import { findBackground, withoutBackground } from './withoutBackground.ts';

const [WIDTH, HEIGHT] = [60, 50];
const WHITE: Rgb = [255, 255, 255];
const NAVY: Rgb = [20, 50, 80];

/** A navy ring with smooth edges on a ground, as a drawing program would export it. */
function ringOn(ground: Rgb): { pixels: Pixels; truth: Float64Array } {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  const truth = new Float64Array(WIDTH * HEIGHT);
  for (let y = 0, at = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++, at++) {
      const away = Math.abs(Math.hypot(x + 0.5 - 30, y + 0.5 - 25) - 15) - 4;
      truth[at] = Math.min(1, Math.max(0, 0.5 - away));
      for (let channel = 0; channel < 3; channel++) {
        data[at * 3 + channel] = NAVY[channel] * truth[at] + ground[channel] * (1 - truth[at]);
      }
    }
  }
  return { pixels: { data, width: WIDTH, height: HEIGHT, channels: 3 }, truth };
}

const alphaAt = ({ data }: Raster, x: number, y: number): number => data[(y * WIDTH + x) * 4 + 3];

describe('findBackground', () => {
  it.each<[string, Rgb]>([
    ['white', WHITE],
    ['black', [0, 0, 0]],
    ['a colour', [200, 30, 60]],
  ])('finds a box of %s', (_, ground) => {
    expect(findBackground(ringOn(ground).pixels)).toMatchObject({ colour: ground, isAll: false });
  });

  it('says when there is nothing but the box', () => {
    const data = new Uint8ClampedArray(300).fill(250);
    expect(findBackground({ data, width: 10, height: 10, channels: 3 })?.isAll).toBe(true);
  });

  it('takes neither a photo nor a transparent ground for a box', () => {
    const photo = ringOn(WHITE).pixels;
    for (let at = 0; at < photo.data.length; at++) photo.data[at] = (at * 37) % 256;
    expect(findBackground(photo)).toBeNull();
    const clear = new Uint8ClampedArray(400);
    expect(findBackground({ data: clear, width: 10, height: 10, channels: 4 })).toBeNull();
  });
});

describe('withoutBackground', () => {
  it('finds the alpha of edges and leaves no fringe on another ground', () => {
    const { pixels, truth } = ringOn(WHITE);
    const free = withoutBackground(pixels, WHITE, 'everywhere');
    let worst = 0;
    truth.forEach((alpha, at) => {
      expect(Math.abs(free.data[at * 4 + 3] / 255 - alpha)).toBeLessThan(0.09);
      for (let channel = 0; channel < 3; channel++) {
        const own = free.data[at * 4 + 3] / 255;
        const onBlack = free.data[at * 4 + channel] * own;
        worst = Math.max(worst, Math.abs(onBlack - NAVY[channel] * alpha));
      }
    });
    expect(worst).toBeLessThan(9);
  });

  it('from outside leaves what the artwork encloses', () => {
    const { pixels } = ringOn(WHITE);
    const outside = withoutBackground(pixels, WHITE, 'outside');
    expect(alphaAt(outside, 30, 25)).toBe(255);
    expect(alphaAt(outside, 2, 2)).toBe(0);
    const everywhere = withoutBackground(pixels, WHITE, 'everywhere');
    expect(alphaAt(everywhere, 30, 25)).toBe(0);
    expect(alphaAt(everywhere, 30, 10)).toBe(255);
  });

  it('takes the noise of a JPEG with it', () => {
    const { pixels } = ringOn(WHITE);
    for (const [x, y] of [
      [30, 3],
      [31, 3],
      [44, 8],
    ]) {
      pixels.data.fill(222, (y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3);
    }
    const free = withoutBackground(pixels, WHITE, 'everywhere');
    expect(alphaAt(free, 30, 3)).toBe(0);
    expect(alphaAt(free, 44, 8)).toBe(0);
  });

  it('keeps pale artwork that stands alone', () => {
    const data = new Uint8ClampedArray(40 * 40 * 3).fill(255);
    for (let y = 10; y < 30; y++) {
      for (let x = 10; x < 30; x++) data[(y * 40 + x) * 3 + 2] = 200;
    }
    const free = withoutBackground({ data, width: 40, height: 40, channels: 3 }, WHITE, 'outside');
    expect(free.data[(20 * 40 + 20) * 4 + 3]).toBe(255);
    expect([...free.data.subarray((20 * 40 + 20) * 4, (20 * 40 + 20) * 4 + 3)]).toEqual([
      255, 255, 200,
    ]);
  });

  /** One row of colours on white, repeated. */
  function strip(...colours: readonly Rgb[]): Pixels {
    const row = [WHITE, WHITE, WHITE, ...colours, WHITE, WHITE, WHITE].flat();
    const data = Uint8ClampedArray.from(Array.from({ length: 9 }, () => row).flat());
    return { data, width: row.length / 3, height: 9, channels: 3 };
  }
  const pixelAt = ({ data, width }: Raster, x: number): number[] => [
    ...data.subarray((4 * width + x) * 4, (4 * width + x) * 4 + 4),
  ];

  it('follows a wide soft edge to the full colour behind it', () => {
    const ramp = [0.1, 0.3, 0.5, 0.7, 1, 1, 1].map((share): Rgb => {
      const [red, green, blue] = NAVY.map((value) => 255 + (value - 255) * share);
      return [red, green, blue];
    });
    const free = withoutBackground(strip(...ramp), WHITE, 'everywhere');
    expect(pixelAt(free, 4)[3] / 255).toBeCloseTo(0.3, 1);
    expect(pixelAt(free, 5)[3] / 255).toBeCloseTo(0.5, 1);
  });

  it('gives an edge its own colour, not its neighbour’s', () => {
    const RED: Rgb = [200, 0, 0];
    const PALE_GREEN: Rgb = [102, 224, 102];
    const free = withoutBackground(strip(RED, RED, PALE_GREEN), WHITE, 'everywhere');
    const [red, green] = pixelAt(free, 5);
    expect(green).toBeGreaterThan(red + 60);
  });
});
