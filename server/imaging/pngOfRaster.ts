import type { Raster } from '#core/pixels';
import { sharp } from './sharp.ts';

/** A raster as PNG bytes, quickly: it goes no further than the page on the same computer. */
export function pngOfRaster({ data, width, height, channels }: Raster): Promise<Buffer> {
  return sharp(data, { raw: { width, height, channels } }).png({ compressionLevel: 3 }).toBuffer();
}
