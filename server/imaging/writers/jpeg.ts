import { leftOutOfJpeg, withJpegMetadata } from '../metadata/jpegSegments.ts';
import type { Canvas } from '#core/pixels';
import { jpegLibrary, type Chroma, type RgbSamples } from '../jpeg/jpegLibrary.ts';
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
    const { chroma: chromaSubsampling, progressive } = file;
    // Where bytes are counted, the best quality that fits is the one with tables of its own.
    const optimiseCoding =
      file.max_bytes !== null || canvas.width * canvas.height <= OWN_TABLES_PIXELS;
    const isUsual = !optimiseCoding && !progressive;
    const options = { quality, chromaSubsampling, progressive, optimiseCoding };
    const plain =
      (isUsual ? await usualJpeg(canvas, quality, chromaSubsampling) : null) ??
      (await encoderOf(canvas).jpeg(options).toBuffer());
    return { parts: withJpegMetadata(plain, blocks), note: leftOutOfJpeg(blocks) };
  });

/** By the JPEG library of the system, which needs no copy of the pixels; null where it is not to be had. */
async function usualJpeg(canvas: Canvas, quality: number, chroma: Chroma): Promise<Buffer | null> {
  const library = canvas.depth === 8 && canvas.channels === 3 ? jpegLibrary() : null;
  return (
    library && Buffer.from((await library.encode(canvas as RgbSamples, quality, chroma)).buffer)
  );
}
