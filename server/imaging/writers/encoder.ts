import type { Canvas } from '#core/pixels';
import type { MetadataBlocks } from '../metadata/blocks.ts';
import { withPngMetadata } from '../metadata/pngChunks.ts';
import { sharp, sharpOf } from '../sharp.ts';

export type Encoder = ReturnType<typeof sharp>;

/** The pixels as encoders take them, in their depth. */
export function encoderOf(canvas: Canvas): Encoder {
  const encoder = sharpOf(canvas);
  return canvas.depth === 16 ? encoder.toColourspace('rgb16') : encoder;
}

/**
 * For encoders that take metadata only from what they read: an uncompressed PNG that carries the pixels
 * and the blocks. Next to the encoding itself that costs little.
 */
export async function encoderWith(canvas: Canvas, blocks: MetadataBlocks): Promise<Encoder> {
  const plain = await encoderOf(canvas).png({ compressionLevel: 0 }).toBuffer();
  const carrier = Buffer.concat(withPngMetadata(plain, blocks));
  let encoder = sharp(carrier, { limitInputPixels: false }).keepMetadata();
  if (canvas.depth === 16) {
    encoder = encoder.pipelineColourspace('rgb16').toColourspace('rgb16');
  }
  // Not by `withMetadata`, which makes everything sRGB besides.
  return blocks.densityPpi ? encoder.withDensity(blocks.densityPpi) : encoder;
}
