import type { Size } from '#core/placement/geometry';
import { headers, isMetadata } from '../../jpeg/jpegFacts.ts';
import { segmentBytes } from '../untouchedSegments.ts';

const JFIF = 0xe0;
/** Adobe's, which says what the components stand for. */
const COLOURS = 0xee;
const RESTARTS = 0xdd;
const FIRST_FRAME = 0xc0;
const SECOND_FRAME = 0xc1;
export const END_OF_IMAGE = Buffer.from([0xff, 0xd9]);

/**
 * A JPEG of a part of another.
 *
 * @param head all that stands in that before its coefficients
 * @param coefficients of the part, as they stand in a file
 */
export function cutJpeg(head: Buffer, { width, height }: Size, coefficients: Uint8Array): Buffer {
  const segments: Uint8Array[] = [head.subarray(0, 2)];
  let at = 2;
  for (const { marker, payload, end } of headers(head)) {
    at = end;
    if (marker === RESTARTS) continue;
    if (isMetadata(marker) && marker !== JFIF && marker !== COLOURS) continue;
    const own = Buffer.from(payload);
    if (marker === FIRST_FRAME || marker === SECOND_FRAME) {
      own.writeUInt16BE(height, 1);
      own.writeUInt16BE(width, 3);
    }
    segments.push(segmentBytes({ marker, payload: own }));
  }
  return Buffer.concat([...segments, head.subarray(at), coefficients, END_OF_IMAGE]);
}
