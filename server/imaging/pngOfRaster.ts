import type { Raster } from '#core/pixels';
import { sharpOf } from './sharp.ts';

/** A raster as PNG bytes, quickly: it goes no further than the page on the same computer. */
export function pngOfRaster(raster: Raster): Promise<Buffer> {
  return sharpOf(raster).png({ compressionLevel: 3 }).toBuffer();
}
