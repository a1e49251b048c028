import { encoderWith } from './encoder.ts';
import type { Writer } from './writer.ts';

export const writeAvif: Writer = async (canvas, { quality, chroma }, blocks) => {
  const encoder = await encoderWith(canvas, blocks);
  const avif = encoder.avif({ quality, chromaSubsampling: chroma });
  return { parts: [await avif.toBuffer()], note: null };
};
