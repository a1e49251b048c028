import type { Raster } from './pixels.ts';

/**
 * The pixels of a raster as a number each, which is read and written at once: alpha in the highest byte, then
 * blue, green and red, as all processors of today hold them. They lie where the raster's samples do, unless
 * those begin in the midst of a number.
 */
export function pixelNumbers({ data }: Raster): Int32Array {
  const isWhole = data.byteOffset % Int32Array.BYTES_PER_ELEMENT === 0;
  const { buffer, byteOffset, length } = isWhole ? data : data.slice();
  return new Int32Array(buffer, byteOffset, length / Int32Array.BYTES_PER_ELEMENT);
}
