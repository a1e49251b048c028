import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLENDS, type Blend } from '../contract/preset.ts';
import type { Canvas, Pixels, Raster } from '../pixels.ts';
import { blendMark } from './blendMark.ts';

function photo(width: number, height: number, colour: number[]): Pixels {
  const channels = colour.length as 3 | 4;
  const data = new Uint8ClampedArray(width * height * channels);
  for (let at = 0; at < data.length; at++) data[at] = colour[at % channels];
  return { data, width, height, channels };
}

function mark(width: number, height: number, colour: number[]): Raster {
  return { ...photo(width, height, colour), channels: 4 };
}

function blended(backdrop: number[], source: number[], opacity: number, blend: Blend): number[] {
  const under = photo(1, 1, backdrop);
  blendMark(under, mark(1, 1, source), 0, 0, opacity, blend);
  return [...under.data];
}

type Triple = [number, number, number];

/** The specification's formulas once more, straight from its text, on 0 to 1. */
function reference(blend: Blend, b: Triple, s: Triple): Triple {
  if (blend === 'luminosity') return setLum(b, lum(s));
  return b.map((backdrop, c) => channel(blend, backdrop, s[c])) as Triple;
}

function channel(blend: Blend, b: number, s: number): number {
  switch (blend) {
    case 'normal':
      return s;
    case 'multiply':
      return b * s;
    case 'screen':
      return 1 - (1 - b) * (1 - s);
    case 'overlay':
      return channel('hard-light', s, b);
    case 'darken':
      return Math.min(b, s);
    case 'lighten':
      return Math.max(b, s);
    case 'color-dodge':
      if (b === 0) return 0;
      return s >= 1 ? 1 : Math.min(1, b / (1 - s));
    case 'color-burn':
      if (b >= 1) return 1;
      return s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s);
    case 'hard-light':
      return s <= 0.5 ? b * 2 * s : 1 - (1 - b) * (1 - (2 * s - 1));
    case 'soft-light': {
      if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
      const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
      return b + (2 * s - 1) * (d - b);
    }
    case 'difference':
      return Math.abs(b - s);
    default:
      return b + s - 2 * b * s;
  }
}

const lum = ([r, g, b]: Triple): number => 0.3 * r + 0.59 * g + 0.11 * b;

function setLum(colour: Triple, l: number): Triple {
  const d = l - lum(colour);
  return clipColour(colour.map((c) => c + d) as Triple);
}

function clipColour(colour: Triple): Triple {
  const l = lum(colour);
  const n = Math.min(...colour);
  const x = Math.max(...colour);
  let out = colour;
  if (n < 0) out = out.map((c) => l + ((c - l) * l) / (l - n)) as Triple;
  if (x > 1) out = out.map((c) => l + ((c - l) * (1 - l)) / (x - l)) as Triple;
  return out;
}

const byte = fc.integer({ min: 0, max: 255 });
const colours = fc.tuple(byte, byte, byte);
const unit = ([r, g, b]: Triple): Triple => [r / 255, g / 255, b / 255];

describe('blend modes', () => {
  it.each(BLENDS)('%s follows the specification within one level, at any alpha', (blend) => {
    fc.assert(
      fc.property(
        colours,
        colours,
        byte,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (b, s, a, o) => {
          const result = blended(b, [...s, a], o, blend);
          const alpha = (a / 255) * o;
          const mixed = reference(blend, unit(b), unit(s));
          for (let c = 0; c < 3; c++) {
            const expected = b[c] * (1 - alpha) + mixed[c] * 255 * alpha;
            expect(Math.abs(result[c] - expected)).toBeLessThanOrEqual(0.51);
          }
        },
      ),
      { seed: 11, numRuns: 250 },
    );
  });

  it.each(BLENDS)('%s on a photo with alpha of its own follows the specification', (blend) => {
    fc.assert(
      fc.property(colours, byte, colours, byte, (b, ab, s, as) => {
        const result = blended([...b, ab], [...s, as], 1, blend);
        const source = as / 255;
        const under = ab / 255;
        const out = source + under * (1 - source);
        expect(Math.abs(result[3] - out * 255)).toBeLessThanOrEqual(0.51);
        if (source === 0 || out < 0.05) return;
        const mixed = reference(blend, unit(b), unit(s));
        for (let c = 0; c < 3; c++) {
          const colour = (1 - under) * (s[c] / 255) + under * mixed[c];
          const expected = (source * colour + (1 - source) * under * (b[c] / 255)) / out;
          expect(Math.abs(result[c] - expected * 255)).toBeLessThanOrEqual(0.51);
        }
      }),
      { seed: 12, numRuns: 150 },
    );
  });
});

describe('a photo of 16 bits', () => {
  const word = fc.integer({ min: 0, max: 65_535 });

  it.each(BLENDS)('%s follows the specification within one level of them', (blend) => {
    fc.assert(
      fc.property(fc.tuple(word, word, word), fc.option(word), colours, byte, (b, ab, s, as) => {
        const backdrop = [...b, ...(ab === null ? [] : [ab])];
        const channels = backdrop.length as 3 | 4;
        const under = { data: Uint16Array.from(backdrop), width: 1, height: 1, channels };
        const deep: Canvas = { ...under, depth: 16, space: 'srgb' };
        blendMark(deep, mark(1, 1, [...s, as]), 0, 0, 1, blend);
        const [over, alpha] = [as / 255, (ab ?? 65_535) / 65_535];
        const out = over + alpha * (1 - over);
        if (over === 0 || out < 0.05) return;
        const words = b.map((value) => value / 65_535) as Triple;
        const mixed = reference(blend, words, unit(s));
        for (let c = 0; c < 3; c++) {
          const colour = (1 - alpha) * (s[c] / 255) + alpha * mixed[c];
          const expected = (over * colour + (1 - over) * alpha * words[c]) / out;
          expect(Math.abs(deep.data[c] - expected * 65_535)).toBeLessThanOrEqual(0.51);
        }
        if (channels === 4) expect(Math.abs(deep.data[3] - out * 65_535)).toBeLessThanOrEqual(0.51);
      }),
      { seed: 13, numRuns: 150 },
    );
  });
});

describe('region', () => {
  it('touches only what the mark covers, and cuts off what lies outside', () => {
    const under = photo(4, 3, [10, 20, 30]);
    blendMark(under, mark(3, 3, [255, 255, 255, 255]), 2, -1, 1, 'normal');
    const changed: string[] = [];
    for (let y = 0; y < 3; y++) {
      for (let x = 0; x < 4; x++) if (under.data[(y * 4 + x) * 3] !== 10) changed.push(`${x},${y}`);
    }
    expect(changed).toEqual(['2,0', '3,0', '2,1', '3,1']);
  });

  it('does nothing outside the frame or without opacity', () => {
    const under = photo(2, 2, [1, 2, 3]);
    blendMark(under, mark(2, 2, [255, 0, 0, 255]), 5, 5, 1, 'normal');
    blendMark(under, mark(2, 2, [255, 0, 0, 255]), 0, 0, 0, 'multiply');
    expect([...under.data]).toEqual([1, 2, 3, 1, 2, 3, 1, 2, 3, 1, 2, 3]);
  });
});
