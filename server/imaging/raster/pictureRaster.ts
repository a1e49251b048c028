import { failure, success, type Result } from '#core/result';
import type { Raster } from '#core/pixels';
import { messageOf } from '../imageErrors.ts';
import { MAX_ARTWORK_PIXELS } from '../limits.ts';
import { sharp } from '../sharp.ts';
import type { Rasteriser } from './rasteriser.ts';

/** The pixels of a picture that is to be artwork. */
export async function pictureRaster(
  bytes: Uint8Array,
  rasteriser: Rasteriser,
): Promise<Result<Raster>> {
  const heic = await heicRaster(bytes);
  if (heic) return heic;
  const decoded = await rasteriser.decode(bytes);
  if (decoded.ok) return decoded;
  if (/exceeds pixel limit/i.test(decoded.reason)) {
    return failure(
      `Expected artwork of at most ${MAX_ARTWORK_PIXELS / 1e6} megapixels, found a larger picture.`,
    );
  }
  return failure(
    'Expected artwork as PNG, SVG, WebP, TIFF, JPEG, HEIC or PDF, found a file that is none.',
  );
}

/** Null for everything that is no HEIC, which the drawing process reads by itself. */
async function heicRaster(bytes: Uint8Array): Promise<Result<Raster> | null> {
  const metadata = await sharp(bytes, { limitInputPixels: MAX_ARTWORK_PIXELS })
    .metadata()
    .catch(() => null);
  if (metadata?.format !== 'heif' || metadata.compression !== 'hevc') return null;
  try {
    const { decodeHeic } = await import('../photo/heic.ts');
    const pipeline = await decodeHeic(bytes, metadata.icc ?? null);
    const { data, info } = await pipeline()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
    return success({ data: pixels, width: info.width, height: info.height, channels: 4 });
  } catch (error) {
    return failure(`Expected a HEIC picture, found one that is damaged (${messageOf(error)}).`);
  }
}
