import { encoderWith } from './encoder.ts';
import { withinBytes } from './withinBytes.ts';
import type { Writer } from './writer.ts';

export const writeWebp: Writer = async (canvas, file, blocks) => {
  const encoder = await encoderWith(canvas, blocks);
  return withinBytes(file, async (quality) => ({
    parts: [await encoder.clone().webp({ quality }).toBuffer()],
    note: null,
  }));
};
