import { encoderWith } from './encoder.ts';
import type { Writer } from './writer.ts';

export const writeWebp: Writer = async (canvas, { quality }, blocks) => {
  const encoder = await encoderWith(canvas, blocks);
  return { parts: [await encoder.webp({ quality }).toBuffer()], leftOut: null };
};
