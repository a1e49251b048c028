import { crc32, deflateSync } from 'node:zlib';
import type { MetadataBlocks } from './blocks.ts';

/**
 * Puts metadata chunks into a PNG (W3C PNG, section 11.3), right after its header. The
 * caption record of IPTC has no chunk there; what it says is in XMP, too, where a program wrote it.
 */

const SIGNATURE_BYTES = 8;
const CHUNK_FRAME_BYTES = 12;
const XMP_KEYWORD = 'XML:com.adobe.xmp';

export function withPngMetadata(png: Buffer, blocks: MetadataBlocks): Buffer[] {
  const headerEnd = SIGNATURE_BYTES + CHUNK_FRAME_BYTES + png.readUInt32BE(SIGNATURE_BYTES);
  const added: Buffer[] = [];
  if (blocks.icc) {
    // Profile name, deflate as the method, then the profile.
    added.push(
      chunk('iCCP', Buffer.concat([Buffer.from('sRGB\0\0', 'latin1'), deflateSync(blocks.icc)])),
    );
  }
  if (blocks.densityPpi) added.push(chunk('pHYs', physicalPixels(blocks.densityPpi)));
  if (blocks.exif) added.push(chunk('eXIf', Buffer.from(blocks.exif)));
  if (blocks.xmp) {
    // Keyword, no compression, no language, no translated keyword, then UTF-8.
    added.push(chunk('iTXt', Buffer.from(`${XMP_KEYWORD}\0\0\0\0\0${blocks.xmp}`, 'utf8')));
  }
  return [png.subarray(0, headerEnd), ...added, png.subarray(headerEnd)];
}

const METRES_PER_INCH = 0.0254;
const UNIT_METRE = 1;

/** Pixels a metre across and down (W3C PNG, section 11.3.4.3). */
function physicalPixels(densityPpi: number): Buffer {
  const payload = Buffer.alloc(9);
  const perMetre = Math.round(densityPpi / METRES_PER_INCH);
  payload.writeUInt32BE(perMetre, 0);
  payload.writeUInt32BE(perMetre, 4);
  payload.writeUInt8(UNIT_METRE, 8);
  return payload;
}

export function chunk(type: string, payload: Buffer): Buffer {
  const framed = Buffer.alloc(CHUNK_FRAME_BYTES + payload.length);
  framed.writeUInt32BE(payload.length, 0);
  framed.write(type, 4, 'latin1');
  payload.copy(framed, 8);
  framed.writeUInt32BE(crc32(framed.subarray(4, 8 + payload.length)), 8 + payload.length);
  return framed;
}
