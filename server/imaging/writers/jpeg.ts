import { leftOutOfJpeg, withJpegMetadata } from '../metadata/jpegSegments.ts';
import { encoderOf } from './encoder.ts';
import { withinBytes } from './withinBytes.ts';
import type { Writer } from './writer.ts';

/**
 * Up to here Huffman tables are made for each file, which takes a second look at all of its coefficients: 2 to
 * 3 % fewer bytes, for a seventh of the time of an export at 2,048 px. At 24 megapixels the same 3 to 6 %
 * would take longer than all the rest of the export, and some 150 MB.
 */
const OWN_TABLES_PIXELS = 5_000_000;

export const writeJpeg: Writer = (canvas, file, blocks) =>
  withinBytes(file, async (quality) => {
    const { chroma: chromaSubsampling, progressive } = file;
    // Where bytes are counted, the best quality that fits is the one with tables of its own.
    const optimiseCoding =
      file.max_bytes !== null || canvas.width * canvas.height <= OWN_TABLES_PIXELS;
    const options = { quality, chromaSubsampling, progressive, optimiseCoding };
    const plain = await encoderOf(canvas).jpeg(options).toBuffer();
    return { parts: withJpegMetadata(plain, blocks), note: leftOutOfJpeg(blocks) };
  });
