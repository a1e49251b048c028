import fc from 'fast-check';
import type { JpegOptions } from 'sharp';
import { describe, expect, it, test } from 'vitest';
import type { Size } from '#core/placement/geometry';
import { sharp } from '../../sharp.ts';
import { damagedIn, HAS_RESTARTS } from '../../../../tests/helpers/jpegRows.ts';
import { hasJpegTools, runTool } from '../../untouched/jpegTools.ts';
import { jpegLibrary } from '../jpegLibrary.ts';
import { blockMeans } from './blockMeans.ts';

const OF_ALL_COLOURS = { chromaSubsampling: '4:4:4' };
const FRAME = { width: 331, height: 203 };

/** Smooth on its left, noise on its right: blocks of few coefficients and of all. */
function samplesOf({ width, height }: Size, seed = 1): Uint8ClampedArray {
  const data = new Uint8ClampedArray(width * height * 3);
  let random = seed;
  for (let at = 0, pixel = 0; at < data.length; at += 3, pixel++) {
    const [x, y] = [pixel % width, Math.floor(pixel / width)];
    random = (random * 48_271) % 0x7fffffff;
    const noise = x > width / 2 ? (random % 255) - 127 : 0;
    data[at] = x + noise;
    data[at + 1] = 128 + 90 * Math.sin((x + seed) / 17 - y / 30) + noise;
    data[at + 2] = 255 - y - noise;
  }
  return data;
}

const jpegOf = (size: Size, options: JpegOptions = {}, seed = 1): Promise<Buffer> => {
  const { width, height } = size;
  const raw = { width, height, channels: 3 } as const;
  return sharp(samplesOf(size, seed), { raw })
    .jpeg({ ...OF_ALL_COLOURS, ...options })
    .toBuffer();
};

const blocksOf = ({ width, height }: Size): Size => ({
  width: Math.ceil(width / 8),
  height: Math.ceil(height / 8),
});
const meansOf = (jpeg: Buffer, wanted = blocksOf(FRAME), step = 1) =>
  blockMeans(jpeg, { step, wanted });

describe.skipIf(!jpegLibrary())('means of blocks are those of a decoder', () => {
  const decoded = async (jpeg: Buffer, size: Size) =>
    (await jpegLibrary()?.decode(jpeg, size, 8))?.data ?? new Uint8ClampedArray();
  const mostApart = (some: ArrayLike<number>, other: ArrayLike<number>): number => {
    expect(some.length).toBe(other.length);
    let most = 0;
    for (let at = 0; at < some.length; at++) most = Math.max(most, Math.abs(some[at] - other[at]));
    return most;
  };

  test.each<[string, JpegOptions]>([
    ['with the usual tables', { optimiseCoding: false, quality: 88 }],
    ['with tables of its own', { optimiseCoding: true, quality: 60 }],
    ['at the best quality, of the longest codes', { optimiseCoding: false, quality: 100 }],
    ['of few coefficients', { quality: 5 }],
  ])('of a file %s', async (_, options) => {
    const jpeg = await jpegOf(FRAME, options);
    const means = meansOf(jpeg);
    expect(means).toMatchObject({ ...blocksOf(FRAME), channels: 3 });
    expect(mostApart(means?.data ?? [], await decoded(jpeg, FRAME))).toBeLessThanOrEqual(1);
  });

  it.skipIf(!hasJpegTools())('of a file with restarts', async () => {
    const plain = await jpegOf(FRAME);
    const jpeg = await runTool('jpegtran', ['-restart', '7B'], plain);
    expect(meansOf(jpeg)?.data).toEqual(meansOf(plain)?.data);
  });

  it('of any size, every so many blocks', async () => {
    // Of fewer px, the decoder makes no smaller picture than of a quarter of each side.
    const side = fc.integer({ min: 9, max: 260 });
    const one = fc.record({
      ...{ width: side, height: side, step: fc.integer({ min: 1, max: 6 }) },
      ...{ seed: fc.integer({ min: 1, max: 9_999 }), quality: fc.integer({ min: 1, max: 100 }) },
      optimiseCoding: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(one, async ({ width, height, step, seed, ...options }) => {
        const jpeg = await jpegOf({ width, height }, options, seed);
        const blocks = blocksOf({ width, height });
        // Of uneven frames, the last column and row are no whole cells.
        const wanted = {
          width: Math.ceil(Math.floor(width / 8) / step),
          height: Math.ceil(Math.floor(height / 8) / step),
        };
        const all = await decoded(jpeg, { width, height });
        const some: number[] = [];
        for (let row = 0; row < wanted.height; row++) {
          for (let column = 0; column < wanted.width; column++) {
            const at = (row * step * blocks.width + column * step) * 3;
            some.push(...all.subarray(at, at + 3));
          }
        }
        const means = blockMeans(jpeg, { step, wanted });
        expect(means).toMatchObject(wanted);
        expect(mostApart(means?.data ?? [], some)).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 },
    );
  });
});

describe.skipIf(!HAS_RESTARTS)('of a file that is as it was encoded', () => {
  const SIZE = { width: 800, height: 600 };
  const encoded = async (): Promise<Buffer> => {
    const samples = { ...SIZE, data: samplesOf(SIZE) };
    return Buffer.from((await jpegLibrary()?.encode(samples, 88, '4:4:4', 'usual')) ?? []);
  };
  const [step, wanted] = [3, { width: 34, height: 25 }];

  it('the rows that hold what is wanted are read, and no others', async () => {
    const jpeg = await encoded();
    const all = blockMeans(jpeg, { step, wanted });
    expect(all).toMatchObject(wanted);
    expect(blockMeans(jpeg, { step, wanted, isAsEncoded: true })).toEqual(all);
    const between = damagedIn(jpeg, 4);
    expect(blockMeans(between, { step, wanted })).toBeNull();
    expect(blockMeans(between, { step, wanted, isAsEncoded: true })).toEqual(all);
    expect(blockMeans(damagedIn(jpeg, 6), { step, wanted, isAsEncoded: true })).toBeNull();
  });

  it('none is missing', async () => {
    const jpeg = await encoded();
    const fourth = jpeg.indexOf(Buffer.of(0xff, 0xd3));
    const fifth = jpeg.indexOf(Buffer.of(0xff, 0xd4));
    expect(fifth).toBeGreaterThan(fourth);
    const without = Buffer.concat([jpeg.subarray(0, fourth), jpeg.subarray(fifth)]);
    expect(blockMeans(without, { step, wanted, isAsEncoded: true })).toBeNull();
  });
});

describe('files that are left to a decoder', () => {
  it('are those that are made otherwise', async () => {
    expect(meansOf(await jpegOf(FRAME, { progressive: true }))).toBeNull();
    expect(meansOf(await jpegOf(FRAME, { chromaSubsampling: '4:2:0' }))).toBeNull();
    const drawn = sharp(await jpegOf(FRAME));
    expect(meansOf(await drawn.clone().toColourspace('b-w').jpeg().toBuffer())).toBeNull();
    expect(meansOf(await drawn.clone().toColourspace('cmyk').jpeg().toBuffer())).toBeNull();
    expect(meansOf(await drawn.png().toBuffer())).toBeNull();
    expect(meansOf(Buffer.alloc(0))).toBeNull();
  });

  it('are those that end too early, or go on after their last block', async () => {
    const whole = await jpegOf(FRAME);
    const end = whole.length - 2;
    expect(meansOf(whole)).not.toBeNull();
    for (const share of [0.3, 0.9, 0.999]) {
      const cut = whole.subarray(0, Math.floor(end * share));
      expect(meansOf(cut)).toBeNull();
      expect(meansOf(Buffer.concat([cut, whole.subarray(end)]))).toBeNull();
    }
    const more = Buffer.concat([
      whole.subarray(0, end),
      Buffer.of(0x12, 0x34),
      whole.subarray(end),
    ]);
    expect(meansOf(more)).toBeNull();
  });

  it('are those with fewer blocks than are wanted', async () => {
    const jpeg = await jpegOf(FRAME);
    const { width, height } = blocksOf(FRAME);
    expect(meansOf(jpeg, { width: width + 1, height })).toBeNull();
    expect(meansOf(jpeg, { width, height: height + 1 })).toBeNull();
  });

  it('are all of which a byte is another, or are read as another picture', async () => {
    const whole = await jpegOf(FRAME);
    const start = whole.indexOf(Buffer.of(0xff, 0xda)) + 14;
    const good = meansOf(whole)?.data;
    const place = fc.integer({ min: start, max: whole.length - 3 });
    const change = fc.integer({ min: 1, max: 255 });
    let [refused, runs] = [0, 0];
    fc.assert(
      fc.property(place, change, (at, by) => {
        const jpeg = Buffer.from(whole);
        jpeg[at] ^= by;
        const means = meansOf(jpeg);
        runs++;
        if (!means) refused++;
        else expect(means.data.length).toBe(good?.length);
      }),
      { numRuns: 300 },
    );
    // 0.56 of 6,000: of so few, 0.06 more or less are chance.
    expect(refused / runs).toBeGreaterThan(0.4);
  });
});
