import { withPngMetadata } from '../metadata/pngChunks.ts';
import { encoderOf } from './encoder.ts';
import type { Writer } from './writer.ts';

export const writePng: Writer = async (canvas, _file, blocks) => {
  const plain = await encoderOf(canvas).png().toBuffer();
  return { parts: withPngMetadata(plain, blocks), note: null };
};
