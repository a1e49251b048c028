import type { FileRule, FileType } from '#core/contract/delivery';
import type { Pixels } from '#core/pixels';
import type { MetadataBlocks } from './metadata/blocks.ts';
import { withJpegMetadata } from './metadata/jpegSegments.ts';
import { withPngMetadata } from './metadata/pngChunks.ts';
import { withTiffExif } from './metadata/tiffDirectory.ts';
import { sharp } from './sharp.ts';

/** Finished pixels and metadata → the bytes of an output file, as parts to be written in order. */

export const FILE_ENDINGS: Readonly<Record<FileType, string>> = Object.freeze({
  jpeg: 'jpg',
  png: 'png',
  webp: 'webp',
  avif: 'avif',
  tiff: 'tif',
});

/** Types that can keep a photo's transparency; for the others it is laid on white. */
export const TYPES_WITH_ALPHA: ReadonlySet<FileType> = new Set(['png', 'webp', 'avif', 'tiff']);

export async function encodePhoto(
  photo: Pixels,
  file: FileRule,
  blocks: MetadataBlocks,
): Promise<Buffer[]> {
  const { data, width, height, channels } = photo;
  const raw = sharp(data, { raw: { width, height, channels } });
  switch (file.type) {
    case 'jpeg': {
      const options = { quality: file.quality, chromaSubsampling: file.chroma };
      return withJpegMetadata(await raw.jpeg(options).toBuffer(), blocks);
    }
    case 'png':
      return withPngMetadata(await raw.png().toBuffer(), blocks);
    case 'webp':
      return [await carried(photo, blocks, (pipeline) => pipeline.webp({ quality: file.quality }))];
    case 'avif':
      return [
        await carried(photo, blocks, (pipeline) =>
          pipeline.avif({ quality: file.quality, chromaSubsampling: file.chroma }),
        ),
      ];
    case 'tiff': {
      const tiff = await carried(photo, blocks, (pipeline) =>
        pipeline.tiff({ compression: 'lzw', predictor: 'horizontal' }),
      );
      return [blocks.exif ? withTiffExif(tiff, blocks.exif) : tiff];
    }
    default:
      throw new Error(`Unknown file type ${file.type satisfies never}`);
  }
}

type Pipeline = ReturnType<typeof sharp>;

/**
 * Encoders that take metadata only from their input get it from an uncompressed PNG that carries
 * the pixels and the blocks; next to the encoding itself that costs little.
 */
async function carried(
  photo: Pixels,
  blocks: MetadataBlocks,
  encode: (pipeline: Pipeline) => Pipeline,
): Promise<Buffer> {
  const { data, width, height, channels } = photo;
  const raw = sharp(data, { raw: { width, height, channels } });
  const plain = await raw.png({ compressionLevel: 0 }).toBuffer();
  const carrier = Buffer.concat(withPngMetadata(plain, blocks));
  let pipeline = sharp(carrier, { limitInputPixels: false }).keepMetadata();
  if (blocks.densityPpi) pipeline = pipeline.withMetadata({ density: blocks.densityPpi });
  return encode(pipeline).toBuffer();
}
