import { decode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { defaultFinish, unitsOf } from '../../contract/finish.ts';
import type { Path } from '../../path/path.ts';
import type { Raster } from '../../pixels.ts';
import { crisp } from '../crisp.ts';
import { boxPath } from '../silhouette.ts';
import { base64Of } from './base64.ts';
import { blurredPlane, filledPlane, grownPlane, type Piece } from './softPlane.ts';
import { bevelPicture, glowPicture, shadowPicture, type SoftPicture } from './softPictures.ts';

const piece = (path: Path, x = 0, y = 0): Piece => ({ path, x, y });
const SQUARE = piece(boxPath(200, 200, 0));
const INK = { x: -100, y: -100, width: 200, height: 200 };

function pixelsOf({ href, box }: SoftPicture) {
  const png = decode(Buffer.from(href.slice('data:image/png;base64,'.length), 'base64'));
  /** Alpha and first channel at a place in units. */
  const at = (x: number, y: number): { grey: number; alpha: number } => {
    const column = Math.floor(((x - box.x) / box.width) * png.width);
    const row = Math.floor(((y - box.y) / box.height) * png.height);
    const from = (row * png.width + column) * png.channels;
    return { grey: png.data[from], alpha: png.data[from + png.channels - 1] };
  };
  return { png, at };
}

describe('blurredPlane', () => {
  it('is within 3 % of a Gaussian, for even and odd boxes', () => {
    for (const sigma of [2, 2.6, 4, 7.3]) {
      const width = 121;
      const data = new Uint8Array(width * 3).fill(0);
      for (let row = 0; row < 3; row++) data.fill(255, row * width + 60, (row + 1) * width);
      // Repeated rows would blur into the bare edges above and below, so only one axis counts.
      const tall = new Uint8Array(width * 121);
      for (let row = 0; row < 121; row++) tall.set(data.subarray(0, width), row * width);
      const blurred = blurredPlane({ data: tall, width, height: 121 }, sigma);
      for (let x = 30; x < 90; x++) {
        const wanted = 0.5 * (1 + erf((x + 0.5 - 60) / (sigma * Math.SQRT2)));
        expect(Math.abs(blurred[60 * width + x] / 255 - wanted)).toBeLessThan(0.03);
      }
    }
  });

  it('leaves the sum as it was', () => {
    const data = new Uint8Array(41 * 41);
    data[20 * 41 + 20] = 250;
    const blurred = blurredPlane({ data, width: 41, height: 41 }, 3);
    expect(blurred.reduce((sum, value) => sum + value, 0)).toBeCloseTo(250, 2);
    // Symmetric, whatever the widths of the boxes.
    expect(blurred[20 * 41 + 15]).toBeCloseTo(blurred[20 * 41 + 25], 4);
    expect(blurred[15 * 41 + 20]).toBeCloseTo(blurred[25 * 41 + 20], 4);
  });
});

/** Abramowitz and Stegun, formula 7.1.26. */
function erf(x: number): number {
  const t = 1 / (1 + 0.327_591_1 * Math.abs(x));
  const poly =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  return Math.sign(x) * (1 - poly * Math.exp(-x * x));
}

describe('grownPlane', () => {
  it('grows a point into a disc', () => {
    const data = new Uint8Array(61 * 61);
    data[30 * 61 + 30] = 255;
    const grown = grownPlane({ data, width: 61, height: 61 }, 12);
    const area = grown.data.reduce((sum, value) => sum + value / 255, 0);
    expect(area).toBeGreaterThan(Math.PI * 12 ** 2);
    expect(area).toBeLessThan(Math.PI * 13.2 ** 2);
    // Round, not square.
    expect(grown.data[(30 + 11) * 61 + 30 + 11]).toBe(0);
    expect(grown.data[30 * 61 + 42]).toBe(255);
  });

  it('changes nothing at radius 0', () => {
    const data = Uint8Array.of(0, 9, 200, 0);
    expect([...grownPlane({ data, width: 2, height: 2 }, 0).data]).toEqual([0, 9, 200, 0]);
  });
});

describe('filledPlane', () => {
  it('covers what the path covers, where it says', () => {
    const { plane, box, density } = filledPlane([SQUARE], INK, 0.5);
    expect([plane.width, plane.height, density]).toEqual([100, 100, 0.5]);
    expect(box).toEqual(INK);
    expect(Math.min(...plane.data)).toBe(255);
  });

  it('lays pieces where they are, between pixels too', () => {
    const small = boxPath(40, 40, 0);
    const { plane } = filledPlane([piece(small, -50, 0), piece(small, 51, 0)], INK, 0.5);
    const row = plane.data.subarray(50 * 100, 51 * 100);
    const filled = [...row].map((value) => Math.round((value / 255) * 100));
    expect(filled.slice(14, 18)).toEqual([0, 100, 100, 100]);
    // A pixel is two units wide, so 51 lies half a pixel further.
    expect([filled[65], filled[66], filled[85]]).toEqual([50, 100, 50]);
  });

  it('unites paths and never grows beyond its limit', () => {
    const { plane } = filledPlane([SQUARE, piece(boxPath(50, 50, 0))], INK, 0.5);
    expect(Math.max(...plane.data)).toBe(255);
    const huge = filledPlane([SQUARE], { x: 0, y: 0, width: 90_000, height: 90_000 }, 2);
    expect(huge.plane.width * huge.plane.height).toBeLessThan(1_610_000);
  });
});

describe('soft pictures', () => {
  it('let a shadow fall away from the ink, as strong as wished', () => {
    const shadow = { ...defaultFinish('shadow'), distance: 4, angle: 0, strength: 0.5 };
    const { at } = pixelsOf(shadowPicture([SQUARE], INK, shadow, 0, '#000000'));
    expect(at(0, 0)).toEqual({ grey: 0, alpha: expect.closeTo(128, -1) });
    expect(at(100 + unitsOf(4), 0).alpha).toBeCloseTo(64, -1.2);
    expect(at(-100 + unitsOf(4), 0).alpha).toBeCloseTo(64, -1.2);
  });

  it('glow stronger with strength, and fade with opacity', () => {
    const near = (strength: number, opacity: number): number => {
      const glow = { ...defaultFinish('glow'), strength, opacity };
      return pixelsOf(glowPicture([SQUARE], INK, glow, 0, '#ffffff')).at(108, 0).alpha;
    };
    expect(near(1, 1)).toBeGreaterThan(near(0.2, 1) * 1.3);
    expect(near(1, 0.5)).toBeCloseTo(near(1, 1) / 2, -0.5);
  });

  it('keep colours', () => {
    const { png } = pixelsOf(shadowPicture([SQUARE], INK, defaultFinish('shadow'), 0, '#c9a25b'));
    expect([...png.data.slice(0, 3)]).toEqual([0xc9, 0xa2, 0x5b]);
  });

  it('light the side that faces the light, or the other where it is pressed in', () => {
    const bevel = { ...defaultFinish('bevel'), size: 4, angle: 180 };
    const raised = pixelsOf(bevelPicture([SQUARE], INK, bevel)).at;
    expect(raised(-99, 0).grey).toBe(255);
    expect(raised(99, 0).grey).toBe(0);
    expect(raised(-99, 0).alpha).toBeGreaterThan(100);
    expect(raised(0, 0).alpha).toBeLessThan(6);
    const pressed = pixelsOf(bevelPicture([SQUARE], INK, { ...bevel, form: 'pressed' })).at;
    expect(pressed(-99, 0).grey).toBe(0);
  });
});

describe('base64Of', () => {
  it.each(['', 'f', 'fo', 'foo', 'foobar'])('agrees with RFC 4648 on "%s"', (text) => {
    expect(base64Of(new TextEncoder().encode(text))).toBe(Buffer.from(text).toString('base64'));
  });

  it('joins long texts', () => {
    const bytes = Uint8Array.from({ length: 50_001 }, (_, index) => (index * 7) % 256);
    expect(base64Of(bytes)).toBe(Buffer.from(bytes).toString('base64'));
  });
});

describe('crisp', () => {
  const raster = (alphas: readonly number[]): Raster => ({
    data: Uint8ClampedArray.from(alphas.flatMap((alpha) => [200, 100, 50, alpha])),
    ...{ width: alphas.length, height: 1, channels: 4 },
  });
  const alphas = ({ data }: Raster): number[] => [...data].filter((_, index) => index % 4 === 3);

  it('steepens an edge and leaves what is even', () => {
    const sharp = alphas(crisp(raster([0, 0, 60, 200, 255, 255, 255]), 0.5));
    expect(sharp[2]).toBeLessThan(60);
    expect(sharp[3]).toBeGreaterThan(200);
    expect([sharp[0], sharp[6]]).toEqual([0, 255]);
  });

  it('keeps the colour of an edge', () => {
    const { data } = crisp(raster([0, 80, 255]), 1);
    expect([...data.slice(8, 12)]).toEqual([200, 100, 50, 255]);
    expect(data[4]).toBeCloseTo(200, -1);
  });
});
