import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Coverage } from '../ink/plane.ts';
import type { Pixels } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';
import { lightness } from './lightness.ts';
import {
  bestCopy,
  classOf,
  measureReadability,
  reachOf,
  readsBetter,
  type Measured,
} from './measure.ts';

/** A photo of greys, with a value for each place. */
function photo(width: number, height: number, grey: (x: number, y: number) => number): Pixels {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let at = 0; at < width * height; at++) {
    data.fill(grey(at % width, Math.floor(at / width)), at * 3, at * 3 + 3);
  }
  return { data, width, height, channels: 3 };
}

/** Upright bars of ink, four px wide, with four px between them. */
const BARS: Coverage = {
  data: Uint8Array.from({ length: 60 * 20 }, (_, at) => ((at % 60) % 8 < 4 ? 255 : 0)),
  ...{ width: 60, height: 20 },
};
const AT = { x: 30, y: 40 };
const BOX: Box = { ...AT, width: 60, height: 20 };

/** The photo with the bars blended in, in one grey. */
function marked(ground: Pixels, core: Coverage, ink: number, opacity = 1): Pixels {
  const data = new Uint8ClampedArray(ground.data);
  for (let at = 0; at < core.data.length; at++) {
    const alpha = (core.data[at] / 255) * opacity;
    const x = AT.x + (at % core.width);
    const to = ((AT.y + Math.floor(at / core.width)) * ground.width + x) * 3;
    for (let c = 0; c < 3; c++) data[to + c] = data[to + c] * (1 - alpha) + ink * alpha;
  }
  return { ...ground, data };
}

function measured(ground: Pixels, ink: number, opacity = 1, core = BARS): Measured {
  const found = measureReadability(marked(ground, core, ink, opacity), core, AT.x, AT.y, BOX);
  if (!found) throw new Error('nothing was measured');
  return found;
}

const even = (grey: number): Pixels => photo(140, 100, () => grey);

describe('measureReadability', () => {
  it('finds white on black clear, with all the contrast there is', () => {
    const { class: kind, share, contrast, bustle } = measured(even(0), 255);
    expect([kind, share, bustle]).toEqual(['clear', 1, 0]);
    expect(contrast).toBeCloseTo(100, 3);
  });

  it('names the part that reads worst, and where it lies', () => {
    // The bars of the right half lie on white.
    const ground = photo(140, 100, (x) => (x < 60 ? 0 : 255));
    const parts = {
      labels: Uint16Array.from(BARS.data, (ink, at) => (ink === 0 ? 0 : at % 60 < 44 ? 1 : 2)),
      count: 2,
    };
    const photoed = marked(ground, BARS, 255);
    const found = measureReadability(photoed, BARS, AT.x, AT.y, BOX, parts);
    expect(found?.weakest).toBe(0);
    expect(found?.weakestPx).toEqual({ x: 78, y: 40, width: 12, height: 20 });
    const whole = measureReadability(photoed, BARS, AT.x, AT.y, BOX);
    expect(whole?.share).toBe(found?.share);
    expect(whole).toMatchObject({ weakest: whole?.share, weakestPx: null });
  });

  it('finds white on white lost', () => {
    expect(measured(even(255), 255)).toMatchObject({ class: 'lost', share: 0, contrast: 0 });
  });

  it('needs twelve L* between ink and an even ground', () => {
    const ground = 119;
    const enough = [...Array(256).keys()].find(
      (grey) => lightness(grey, grey, grey) - lightness(ground, ground, ground) >= 12,
    ) as number;
    expect(measured(even(ground), enough).share).toBe(1);
    expect(measured(even(ground), enough - 1).share).toBe(0);
  });

  it('loses light ink in a ground of light and dark, and dark ink in it, too', () => {
    const busy = photo(140, 100, (x, y) => (((x >> 1) + (y >> 1)) % 2) * 255);
    const found = measured(busy, 255);
    expect(found.class).toBe('lost');
    expect(found.bustle).toBeGreaterThan(40);
    expect(measured(busy, 0).class).toBe('lost');
  });

  it('is faint where the ground turns against it halfway', () => {
    const halves = photo(140, 100, (x) => (x < AT.x + 42 ? 20 : 250));
    const found = measured(halves, 255);
    expect(found.class).toBe('faint');
    expect(found.share).toBeGreaterThan(0.6);
    expect(found.share).toBeLessThan(0.9);
  });

  it('takes opacity as it is seen, but ink as it is drawn', () => {
    expect(measured(even(0), 255, 0.5).contrast).toBeLessThan(60);
    expect(measured(even(0), 255, 0.02)).toMatchObject({ class: 'lost' });
  });

  it('looks at the photo only, where the mark runs over its edge', () => {
    const half = { ...BOX, x: -30 };
    const found = measureReadability(
      photo(140, 100, () => 0),
      BARS,
      -30,
      AT.y,
      half,
    );
    expect(found?.share).toBe(0);
    expect(measureReadability(even(0), BARS, -90, AT.y, { ...BOX, x: -90 })).toBeNull();
  });

  it('leaves out ink with no ground near it', () => {
    const block: Coverage = { data: new Uint8Array(60 * 20).fill(255), width: 60, height: 20 };
    const reach = reachOf(BOX);
    const found = measured(even(0), 255, 1, block);
    expect(found.share).toBe(1);
    const alone = { data: new Uint8Array(140 * 100).fill(255), width: 140, height: 100 };
    expect(measureReadability(even(0), alone, 0, 0, BOX)).toBeNull();
    expect(reach).toBe(3);
  });

  it('agrees with the definition, counted pixel by pixel', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000 }), (seed) => {
        const noise = (at: number): number => ((at + seed) * 7_919 * (seed + 13)) % 256;
        const ground = photo(90, 70, (x, y) => noise(x * 31 + y * 57));
        const core: Coverage = {
          data: Uint8Array.from({ length: 40 * 20 }, (_, at) => noise(at * 3)),
          ...{ width: 40, height: 20 },
        };
        const box = { x: 21.4, y: 30.2, width: 40, height: 20 };
        const found = measureReadability(ground, core, 21, 30, box);
        const wanted = byDefinition(ground, core, 21, 30, box);
        expect(found?.share).toBeCloseTo(wanted.share, 9);
        expect(found?.contrast).toBeCloseTo(wanted.contrast, 3);
      }),
      { seed: 3, numRuns: 12 },
    );
  });
});

function byDefinition(photo: Pixels, core: Coverage, left: number, top: number, box: Box) {
  const r = Math.max(3, Math.round(0.04 * Math.max(box.width, box.height)));
  const cover = (x: number, y: number): number => {
    const [cx, cy] = [x - left, y - top];
    const isIn = cx >= 0 && cy >= 0 && cx < core.width && cy < core.height;
    return isIn ? core.data[cy * core.width + cx] / 255 : 0;
  };
  const light = (x: number, y: number): number => {
    const at = (y * photo.width + x) * 3;
    return lightness(photo.data[at], photo.data[at + 1], photo.data[at + 2]);
  };
  const isNear = (x: number, y: number): boolean =>
    x >= Math.floor(box.x - r) &&
    x < Math.ceil(box.x + box.width + r) &&
    y >= Math.floor(box.y - r) &&
    y < Math.ceil(box.y + box.height + r);
  const differences: number[] = [];
  let reads = 0;
  for (let y = 0; y < photo.height; y++) {
    for (let x = 0; x < photo.width; x++) {
      if (cover(x, y) < 0.5) continue;
      const around: number[] = [];
      for (let v = y - r; v <= y + r; v++) {
        for (let u = x - r; u <= x + r; u++) {
          const isIn = u >= 0 && v >= 0 && u < photo.width && v < photo.height;
          if (isIn && isNear(u, v) && cover(u, v) < 0.1) around.push(light(u, v));
        }
      }
      if (around.length === 0) continue;
      const mean = around.reduce((sum, l) => sum + l, 0) / around.length;
      const variance = around.reduce((sum, l) => sum + (l - mean) ** 2, 0) / around.length;
      const difference = Math.abs(light(x, y) - mean);
      differences.push(difference);
      if (difference >= 12 && difference >= 1.5 * Math.sqrt(variance)) reads++;
    }
  }
  differences.sort((a, b) => a - b);
  const middle = differences.length / 2;
  const contrast =
    differences.length % 2 === 1
      ? differences[Math.floor(middle)]
      : (differences[middle - 1] + differences[middle]) / 2;
  return { share: reads / differences.length, contrast };
}

describe('classes', () => {
  it.each([
    [1, 'clear'],
    [0.9, 'clear'],
    [0.899, 'faint'],
    [0.6, 'faint'],
    [0.599, 'lost'],
    [0, 'lost'],
  ] as const)('a share of %d is %s', (share, kind) => {
    expect(classOf(share, share)).toBe(kind);
  });

  it('are clear only where every part reads', () => {
    expect(classOf(0.97, 0.8)).toBe('clear');
    expect(classOf(0.97, 0.79)).toBe('faint');
    expect(classOf(0.5, 0)).toBe('lost');
  });

  it('let the best copy of a repeated mark decide', () => {
    const at = (share: number, contrast: number): Measured => ({
      ...{ class: classOf(share, share), share, contrast, bustle: 0 },
      ...{ weakest: share, weakestPx: null },
    });
    expect(bestCopy([at(0.2, 9), null, at(0.95, 20), at(0.95, 31)])).toEqual(at(0.95, 31));
    expect(bestCopy([null])).toBeNull();
    expect(readsBetter(at(0.5, 10), at(0.5, 10))).toBe(false);
  });

  it('reach further round larger marks', () => {
    expect(reachOf({ width: 40, height: 20 })).toBe(3);
    expect(reachOf({ width: 100, height: 300 })).toBe(12);
  });
});
