import type { MetadataBlocks } from './blocks.ts';

/** Puts metadata segments into a freshly encoded JPEG (ITU T.81, annex B). */

const MARKER_APP0 = 0xe0;
const MARKER_APP1 = 0xe1;
const MARKER_APP2 = 0xe2;
const MARKER_APP13 = 0xed;
/** A segment's length field counts itself and is 16 bits wide. */
const MAX_PAYLOAD = 0xffff - 2;
const XMP_PREAMBLE = 'http://ns.adobe.com/xap/1.0/\0';
const ICC_PREAMBLE = 'ICC_PROFILE\0';
const START_OF_IMAGE_BYTES = 2;
const UNITS_PER_INCH = 1;
/** Start of image, then a JFIF segment (ITU T.871, 10.1): version 1.01, square pixels of no known size, no thumbnail. */
const START_WITH_JFIF: readonly number[] = [
  ...[0xff, 0xd8, 0xff, MARKER_APP0, 0, 16, ...Buffer.from('JFIF\0', 'latin1')],
  ...[1, 1, 0, 0, 1, 0, 1, 0, 0],
];

/** @param jpeg as the encoder made it: start of image, then a JFIF segment, which some leave out */
export function withJpegMetadata(jpeg: Buffer, blocks: MetadataBlocks): Buffer[] {
  const jfifEnd = endOfJfif(jpeg);
  const isWithout = jfifEnd === START_OF_IMAGE_BYTES;
  // Only there has a JPEG a place for its density beside EXIF.
  const isNeeded = isWithout && blocks.densityPpi;
  const head = isNeeded ? Buffer.from(START_WITH_JFIF) : jpeg.subarray(0, jfifEnd);
  if (blocks.densityPpi) setDensity(head, blocks.densityPpi);
  return [head, ...metadataSegments(blocks), jpeg.subarray(jfifEnd)];
}

/** The blocks as segments, in the order in which readers expect them. */
export function metadataSegments(blocks: MetadataBlocks): Buffer[] {
  const added: Buffer[] = [];
  if (blocks.exif) add(added, MARKER_APP1, Buffer.from('Exif\0\0', 'latin1'), blocks.exif);
  if (blocks.xmp) {
    add(added, MARKER_APP1, Buffer.from(XMP_PREAMBLE, 'latin1'), Buffer.from(blocks.xmp, 'utf8'));
  }
  if (blocks.icc) addProfile(added, blocks.icc);
  if (blocks.iptc) add(added, MARKER_APP13, Buffer.alloc(0), blocks.iptc);
  return added;
}

/** What a JPEG cannot take of the blocks, since one segment has no room for it; as a sentence, or null. */
export function leftOutOfJpeg({ exif, xmp, iptc }: MetadataBlocks): string | null {
  const long = [
    exif && exif.length + 'Exif\0\0'.length > MAX_PAYLOAD ? 'camera notes (EXIF)' : null,
    xmp && Buffer.byteLength(xmp) + XMP_PREAMBLE.length > MAX_PAYLOAD ? 'XMP' : null,
    iptc && iptc.length > MAX_PAYLOAD ? 'caption (IPTC)' : null,
  ].filter(Boolean);
  if (long.length === 0) return null;
  return `Its ${long.join(' and ')} is longer than a JPEG takes, and was left out.`;
}

/** A block too long for one segment is left out: half of it would be worse than none. */
function add(segments: Buffer[], marker: number, preamble: Buffer, payload: Uint8Array): void {
  const length = preamble.length + payload.length;
  if (length > MAX_PAYLOAD) return;
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(length + 2, 2);
  segments.push(head, preamble, Buffer.from(payload));
}

/** A profile may go on from segment to segment (ICC.1:2022, B.4), 255 at most. */
function addProfile(segments: Buffer[], icc: Uint8Array): void {
  const room = MAX_PAYLOAD - ICC_PREAMBLE.length - 2;
  const count = Math.ceil(icc.length / room);
  for (let index = 0; index < count && count <= 0xff; index++) {
    const place = Buffer.from([index + 1, count]);
    const preamble = Buffer.concat([Buffer.from(ICC_PREAMBLE, 'latin1'), place]);
    add(segments, MARKER_APP2, preamble, icc.subarray(index * room, (index + 1) * room));
  }
}

function endOfJfif(jpeg: Buffer): number {
  const isJfif = jpeg[2] === 0xff && jpeg[3] === MARKER_APP0;
  return isJfif ? START_OF_IMAGE_BYTES + 2 + jpeg.readUInt16BE(4) : START_OF_IMAGE_BYTES;
}

function setDensity(head: Buffer, densityPpi: number): void {
  const unitsAt = 13;
  const density = Math.min(0xffff, Math.max(1, Math.round(densityPpi)));
  head.writeUInt8(UNITS_PER_INCH, unitsAt);
  head.writeUInt16BE(density, unitsAt + 1);
  head.writeUInt16BE(density, unitsAt + 3);
}
