import { leftOutOfJpeg, withJpegMetadata } from '../metadata/jpegSegments.ts';
import { encoderOf } from './encoder.ts';
import type { Writer } from './writer.ts';

export const writeJpeg: Writer = async (canvas, { quality, chroma }, blocks) => {
  const plain = await encoderOf(canvas).jpeg({ quality, chromaSubsampling: chroma }).toBuffer();
  return { parts: withJpegMetadata(plain, blocks), leftOut: leftOutOfJpeg(blocks) };
};
