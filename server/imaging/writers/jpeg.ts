import { leftOutOfJpeg, withJpegMetadata } from '../metadata/jpegSegments.ts';
import { encoderOf } from './encoder.ts';
import { withinBytes } from './withinBytes.ts';
import type { Writer } from './writer.ts';

export const writeJpeg: Writer = (canvas, file, blocks) =>
  withinBytes(file, async (quality) => {
    const { chroma: chromaSubsampling, progressive } = file;
    const options = { quality, chromaSubsampling, progressive };
    const plain = await encoderOf(canvas).jpeg(options).toBuffer();
    return { parts: withJpegMetadata(plain, blocks), note: leftOutOfJpeg(blocks) };
  });
