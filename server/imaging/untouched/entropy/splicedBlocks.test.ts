import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockPatches } from '#core/delivery/blockPatches';
import type { Box, Size } from '#core/placement/geometry';
import { sharp } from '../../sharp.ts';
import { blockOf, jpegFacts } from '../../jpeg/jpegFacts.ts';
import { hasJpegTools, runTool } from '../jpegTools.ts';
import { entropyScan } from '../../jpeg/entropy/entropyScan.ts';
import { splicedBlocks } from './splicedBlocks.ts';

const SIZE = { width: 331, height: 205 };
const CORNER = { x: 200, y: 140, width: 120, height: 50 };

/** Noise that becomes finer to the right, from a smooth ground. */
function samples({ width, height }: Size, seed: number): Uint8Array {
  let state = seed + 1;
  return Uint8Array.from({ length: width * height * 3 }, (_, at) => {
    state = (state * 1_103_515_245 + 12_345) & 0x7fffffff;
    const noise = ((state >> 16) % 256) - 128;
    return Math.min(255, Math.max(0, 128 + 90 * Math.sin(at / 900) + (noise * (at % 1_000)) / 900));
  });
}

async function encoded(size: Size, seed: number, words: readonly string[]): Promise<Buffer> {
  const head = Buffer.from(`P6\n${size.width} ${size.height}\n255\n`, 'latin1');
  return runTool('cjpeg', words, Buffer.concat([head, samples(size, seed)]));
}

function spliced(
  jpeg: Buffer,
  boxes: readonly Box[],
  remade: (cut: Buffer, index: number) => Buffer = (cut) => cut,
): Buffer | null {
  const facts = jpegFacts(jpeg);
  if (!facts) throw new Error('expected a JPEG');
  const cuts = blockPatches(boxes, facts.size, blockOf(facts));
  const parts = splicedBlocks(jpeg, facts, { cuts, remade });
  return parts && Buffer.concat([parts.head, ...parts.picture]);
}

const decoded = (jpeg: Buffer): Promise<Buffer> =>
  sharp(jpeg, { failOn: 'warning' }).raw().toBuffer();

function stretchesOf(jpeg: Buffer) {
  const facts = jpegFacts(jpeg);
  const scan = facts && entropyScan(jpeg, facts);
  if (!scan) throw new Error('expected coefficients in one scan');
  return scan.stretches.map(({ bytes: [from, to] }) => jpeg.subarray(from, to));
}

const SAMPLINGS = ['1x1', '2x1', '1x2', '2x2', '4x1', '2x2,1x2,2x1'];

describe.skipIf(!hasJpegTools())('blocks put between others', () => {
  it('leave a file as it looks when they are those that were there', async () => {
    const share = fc.double({ min: -0.1, max: 1, noNaN: true });
    const box = fc.record({ x: share, y: share, width: share, height: share });
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 150 }),
        fc.integer({ min: 1, max: 150 }),
        fc.array(box, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(...SAMPLINGS),
        fc.constantFrom([], ['-optimize'], ['-grayscale']),
        fc.constantFrom([], ['-restart', '1B'], ['-restart', '7B'], ['-restart', '1']),
        fc.integer({ min: 20, max: 100 }),
        async (width, height, shares, sampling, kind, restarts, quality) => {
          const words = ['-sample', sampling, '-quality', String(quality), ...kind, ...restarts];
          const jpeg = await encoded({ width, height }, quality, words);
          const boxes = shares.map((one) => ({
            ...{ x: Math.floor(one.x * width), y: Math.floor(one.y * height) },
            ...{ width: Math.ceil(one.width * width), height: Math.ceil(one.height * height) },
          }));
          const made = spliced(jpeg, boxes);
          if (!made) throw new Error('expected it to be spliced');
          expect((await decoded(made)).equals(await decoded(jpeg))).toBe(true);
          // By tables that have all codes, nothing but those blocks can have changed.
          if (kind.length === 0) expect(made.equals(jpeg)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leave all bits before them, and all that can be read alone', async () => {
    const jpeg = await encoded(SIZE, 1, ['-restart', '1']);
    const other = await encoded(SIZE, 2, []);
    let cutOther: Buffer | null = null;
    spliced(other, [CORNER], (cut) => (cutOther = cut));
    const made = spliced(jpeg, [CORNER], () => cutOther ?? Buffer.alloc(0));
    const [before, after] = [stretchesOf(jpeg), stretchesOf(made ?? jpeg)];
    const changed = before.flatMap((bytes, row) => (bytes.equals(after[row]) ? [] : [row]));
    // Rows of 16 px.
    expect(changed).toEqual([8, 9, 10, 11]);
    expect(before[8].subarray(0, 100).equals(after[8].subarray(0, 100))).toBe(true);
  });

  it('may need codes that the tables of a file lack', async () => {
    const size = { width: 320, height: 208 };
    const even = await runTool(
      'cjpeg',
      ['-optimize'],
      Buffer.concat([Buffer.from('P6\n320 208\n255\n'), Buffer.alloc(320 * 208 * 3, 90)]),
    );
    const noisy = await encoded(size, 3, []);
    let cutOther: Buffer | null = null;
    spliced(noisy, [CORNER], (cut) => (cutOther = cut));
    const made = spliced(even, [CORNER], () => cutOther ?? Buffer.alloc(0));
    const now = await decoded(made ?? even);
    const wanted = await decoded(noisy);
    // Well inside, where no colours are smoothed into those beside it.
    const at = (160 * size.width + 250) * 3;
    expect(now.subarray(at, at + 90).equals(wanted.subarray(at, at + 90))).toBe(true);
    expect(new Set(now.subarray(0, 100 * size.width * 3)).size).toBe(1);
    // A row by codes that are several times as long, in a file that was short.
    const row = await encoded({ width: 320, height: 16 }, 3, []);
    const other = spliced(even, [{ x: 0, y: 0, width: 320, height: 16 }], () => row);
    const upper = (pixels: Buffer) => pixels.subarray(0, 8 * size.width * 3);
    expect(upper(await decoded(other ?? even)).equals(upper(await decoded(row)))).toBe(true);
  });

  it('are put into no file that is not whole, or not as its headers say', async () => {
    const jpeg = await encoded(SIZE, 4, ['-restart', '2']);
    const end = jpeg.length - 2;
    const restart = jpeg.indexOf(Buffer.of(0xff, 0xd0));
    const broken: Record<string, Buffer> = {
      'cut short': jpeg.subarray(0, jpeg.length / 2),
      'without an end': jpeg.subarray(0, end),
      'with more than its units': Buffer.concat([
        jpeg.subarray(0, end),
        Buffer.from([1, 2, 3]),
        jpeg.subarray(end),
      ]),
      progressive: await encoded(SIZE, 4, ['-progressive']),
      'with a lost restart': Buffer.from(jpeg).fill(0xd5, restart + 1, restart + 2),
      'with less than its units': Buffer.concat([
        jpeg.subarray(0, jpeg.indexOf(Buffer.of(0xff, 0xd1)) - 9),
        jpeg.subarray(jpeg.indexOf(Buffer.of(0xff, 0xd1))),
      ]),
    };
    for (const [name, file] of Object.entries(broken)) {
      expect([name, spliced(file, [{ x: 0, y: 0, ...SIZE }])]).toEqual([name, null]);
    }
  });

  it('end in no error, whatever is damaged', async () => {
    const jpeg = await encoded({ width: 90, height: 70 }, 5, ['-optimize']);
    const box = { x: 20, y: 20, width: 40, height: 30 };
    const start = jpeg.length - stretchesOf(jpeg)[0].length - 200;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: start, max: jpeg.length - 1 }), fc.nat(255)), {
          minLength: 1,
          maxLength: 8,
        }),
        (changes) => {
          const damaged = Buffer.from(jpeg);
          for (const [at, byte] of changes) damaged[at] = byte;
          if (jpegFacts(damaged)) spliced(damaged, [box]);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('are those of the cut only where it was made alike', async () => {
    const jpeg = await encoded(SIZE, 6, ['-sample', '2x2']);
    const other = await encoded({ width: 128, height: 64 }, 6, ['-sample', '1x1']);
    expect(spliced(jpeg, [CORNER], () => other)).toBeNull();
    expect(spliced(jpeg, [CORNER], (cut) => cut.subarray(0, cut.length - 300))).toBeNull();
  });
});
