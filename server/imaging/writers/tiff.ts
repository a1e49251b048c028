import { withTiffExif } from '../metadata/tiffDirectory.ts';
import { encoderWith } from './encoder.ts';
import type { Writer } from './writer.ts';

export const writeTiff: Writer = async (canvas, { compression }, blocks) => {
  const encoder = await encoderWith(canvas, blocks);
  const tiff = await encoder.tiff({ compression, predictor: 'horizontal' }).toBuffer();
  return { parts: [blocks.exif ? withTiffExif(tiff, blocks.exif) : tiff], note: null };
};
