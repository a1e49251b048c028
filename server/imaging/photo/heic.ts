import type { SharpOptions } from 'sharp';
import decode from 'heic-decode';
import { messageOf } from '../imageErrors.ts';
import { withPngMetadata } from '../metadata/pngChunks.ts';
import { sharp, sharpOf } from '../sharp.ts';

/**
 * HEIC is decoded by a library compiled to WebAssembly, which holds up the process it runs in: it
 * belongs into an imaging process.
 *
 * @returns a factory of pipelines over the decoded, upright pixels, with the photo's colour profile
 */
export async function decodeHeic(
  bytes: Uint8Array,
  icc: Buffer | null,
): Promise<(options?: SharpOptions) => ReturnType<typeof sharp>> {
  const { data, width, height } = await decode({ buffer: Buffer.from(bytes) }).catch(
    (error: unknown) => {
      throw new Error(`invalid: ${messageOf(error)}`);
    },
  );
  const pixels = Buffer.from(data.buffer, data.byteOffset, data.byteLength);
  const opaque = () => sharpOf({ data: pixels, width, height, channels: 4 }).removeAlpha();
  if (!icc) return opaque;
  // Raw pixels cannot carry a profile, an uncompressed PNG can; sharp then converts the colours.
  const png = await opaque().png({ compressionLevel: 0 }).toBuffer();
  const blocks = { exif: null, xmp: null, iptc: null, icc, densityPpi: null };
  const profiled = Buffer.concat(withPngMetadata(png, blocks));
  return (options) => sharp(profiled, options);
}
