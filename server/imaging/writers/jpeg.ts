import { leftOutOfJpeg, withJpegMetadata } from '../metadata/jpegSegments.ts';
import type { EncodingRule } from '#core/contract/delivery';
import type { Canvas } from '#core/pixels';
import { jpegLibrary, type HuffmanTables, type RgbSamples } from '../jpeg/jpegLibrary.ts';
import { encoderOf } from './encoder.ts';
import { withinBytes } from './withinBytes.ts';
import type { Writer } from './writer.ts';

/**
 * Up to here Huffman tables are made for each file, which takes a second look at all of its coefficients: 1 to
 * 2 % fewer bytes. At 2,048 px that would be a fifth of the time of an export; at 24 megapixels it would take
 * longer than all the rest, and some 150 MB.
 */
const OWN_TABLES_PIXELS = 1_000_000;

export const writeJpeg: Writer = (canvas, file, blocks) =>
  withinBytes(file, async (quality) => {
    // Where bytes are counted, the best quality that fits is the one with tables of its own.
    const isOwn = file.max_bytes !== null || canvas.width * canvas.height <= OWN_TABLES_PIXELS;
    const plain =
      (await baselineJpeg(canvas, { ...file, quality }, isOwn ? 'own' : 'usual')) ??
      (await encoderOf(canvas)
        .jpeg(optionsOf({ ...file, quality }, isOwn))
        .toBuffer());
    return { parts: withJpegMetadata(plain, blocks), note: leftOutOfJpeg(blocks) };
  });

type Sized = Pick<EncodingRule, 'chroma' | 'progressive' | 'quality'>;

function optionsOf({ quality, chroma, progressive }: Sized, optimiseCoding: boolean) {
  return { quality, chromaSubsampling: chroma, progressive, optimiseCoding };
}

/** By the JPEG library of the system, which needs no copy of the pixels; null where it is not to be had. */
async function baselineJpeg(
  canvas: Canvas,
  { quality, chroma, progressive }: Sized,
  tables: HuffmanTables,
): Promise<Buffer | null> {
  const isPlain = !progressive && canvas.depth === 8 && canvas.channels === 3;
  const library = isPlain ? jpegLibrary() : null;
  if (!library) return null;
  const { buffer } = await library.encode(canvas as RgbSamples, quality, chroma, tables);
  return Buffer.from(buffer);
}
