import { expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import type { Canvas } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { headers } from '../jpeg/jpegFacts.ts';
import { writeJpeg } from './jpeg.ts';

const NO_BLOCKS = { exif: null, xmp: null, iptc: null, icc: null, densityPpi: null };
const DEFINE_HUFFMAN_TABLE = 0xc4;
/** Class and number, counts by length and values of the four usual tables (ITU T.81, annex K). */
const USUAL_TABLES_BYTES = 4 * (1 + 16) + 2 * 12 + 2 * 162;

function plain({ width, height }: Size): Canvas {
  const data = new Uint8ClampedArray(width * height * 3).fill(90);
  return { data, width, height, channels: 3, depth: 8, space: 'srgb' };
}

async function tableBytes(frame: Size, file: object): Promise<number> {
  const rule = deliveryRuleSchema.parse({ file });
  const { parts } = await writeJpeg(plain(frame), { ...rule.file, quality: 88 }, NO_BLOCKS);
  const tables = [...headers(Buffer.concat(parts))].filter(
    ({ marker }) => marker === DEFINE_HUFFMAN_TABLE,
  );
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
