import { describe, expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import type { Canvas } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { damagedIn, HAS_RESTARTS, rowsOf } from '../../../tests/helpers/jpegRows.ts';
import { headers } from '../jpeg/jpegFacts.ts';
import { sharp } from '../sharp.ts';
import { writeJpeg } from './jpeg.ts';

const NO_BLOCKS = { exif: null, xmp: null, iptc: null, icc: null, densityPpi: null };
const DEFINE_HUFFMAN_TABLE = 0xc4;
/** Class and number, counts by length and values of the four usual tables (ITU T.81, annex K). */
const USUAL_TABLES_BYTES = 4 * (1 + 16) + 2 * 12 + 2 * 162;

function plain({ width, height }: Size): Canvas {
  const data = new Uint8ClampedArray(width * height * 3).fill(90);
  return { data, width, height, channels: 3, depth: 8, space: 'srgb' };
}

const fileOf = (file: object) => deliveryRuleSchema.parse({ file }).file;

async function written(canvas: Canvas, file: object): Promise<Buffer> {
  const { parts } = await writeJpeg(canvas, { ...fileOf(file), quality: 88 }, NO_BLOCKS);
  return Buffer.concat(parts);
}

async function tableBytes(frame: Size, file: object): Promise<number> {
  const jpeg = await written(plain(frame), file);
  const tables = [...headers(jpeg)].filter(({ marker }) => marker === DEFINE_HUFFMAN_TABLE);
  return tables.reduce((sum, { payload }) => sum + payload.length, 0);
}

const SMALL = { width: 1_200, height: 800 };
const LARGE = { width: 2_048, height: 1_365 };

it.each([
  ['small', SMALL, {}, true],
  ['larger', LARGE, {}, false],
  ['larger, under a limit of bytes', LARGE, { max_bytes: 2_000_000 }, true],
  ['larger, progressive', LARGE, { progressive: true }, true],
])('has tables of its own where bytes matter more than time: %s', async (_, frame, file, isOwn) => {
  const bytes = await tableBytes(frame, file);
  expect(bytes < USUAL_TABLES_BYTES).toBe(isOwn);
  if (!isOwn) expect(bytes).toBe(USUAL_TABLES_BYTES);
});

it('has its own tables, whatever is written beside it', async () => {
  const frames = [SMALL, LARGE, SMALL, LARGE];
  const bytes = await Promise.all(frames.map((frame) => tableBytes(frame, {})));
  expect(bytes.map((some) => some === USUAL_TABLES_BYTES)).toEqual([false, true, false, true]);
});

it('has the same picture in fewer bytes by tables of its own', async () => {
  const canvas = busy(LARGE);
  const usual = await written(canvas, {});
  const own = await written(canvas, { max_bytes: 90_000_000 });
  // Under a limit that all fit in, the best quality is taken.
  const { parts } = await writeJpeg(canvas, { ...fileOf({}), quality: 95 }, NO_BLOCKS);
  const best = Buffer.concat(parts);
  expect(own.length).toBeLessThan(best.length);
  expect((await decoded(own)).equals(await decoded(best))).toBe(true);
  expect(best.length).toBeGreaterThan(usual.length);
});

/** Blocks of many coefficients. */
function busy(frame: Size): Canvas {
  const canvas = plain(frame);
  for (let at = 0; at < canvas.data.length; at++) canvas.data[at] = 128 + 90 * Math.sin(at * at);
  return canvas;
}

const decoded = (jpeg: Buffer): Promise<Buffer> =>
  sharp(jpeg, { failOn: 'none' }).removeAlpha().raw().toBuffer();

describe.skipIf(!HAS_RESTARTS).each([
  ['large', LARGE],
  ['small', SMALL],
])('a %s file', (_, frame) => {
  it.each([
    ['4:4:4', 8],
    ['4:2:0', 16],
  ])('of %s loses no more than a row of blocks to damage inside', async (chroma, blockPx) => {
    const jpeg = await written(busy(frame), { chroma });
    const good = await decoded(jpeg);
    expect(rowsOf(jpeg)).toBe(Math.ceil(frame.height / blockPx));
    const row = 40;
    const other = await decoded(damagedIn(jpeg, row));
    // Beside halved colours, decoders smooth those of one row into the next.
    const rim = blockPx === 8 ? 0 : 1;
    const bytesOf = (px: number): number => px * frame.width * 3;
    const [start, end] = [bytesOf(row * blockPx - rim), bytesOf((row + 1) * blockPx + rim)];
    expect(other.subarray(start, end).equals(good.subarray(start, end))).toBe(false);
    expect(other.subarray(0, start).equals(good.subarray(0, start))).toBe(true);
    expect(other.subarray(end).equals(good.subarray(end))).toBe(true);
  });
});
