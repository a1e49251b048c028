/**
 * Changes to an EXIF block (a TIFF structure, CIPA DC-008) in place. Nothing is moved, since makers'
 * notes hold offsets from the start of the block that no one else can correct.
 */

const TAG_ORIENTATION = 0x0112;
const TAG_X_RESOLUTION = 0x011a;
const TAG_Y_RESOLUTION = 0x011b;
const TAG_RESOLUTION_UNIT = 0x0128;
const TAG_EXIF_IFD = 0x8769;
const TAG_GPS_IFD = 0x8825;
const TAG_COLOUR_SPACE = 0xa001;
const TAG_PIXEL_WIDTH = 0xa002;
const TAG_PIXEL_HEIGHT = 0xa003;
const TAG_IMAGE_WIDTH = 0x0100;
const TAG_IMAGE_HEIGHT = 0x0101;

const TYPE_SHORT = 3;
const TYPE_LONG = 4;
const TYPE_RATIONAL = 5;
const ENTRY_BYTES = 12;
export const UPRIGHT = 1;
const SRGB = 1;
const PER_INCH = 2;
const PREAMBLE = 'Exif\0\0';

export interface ExifFacts {
  readonly width: number;
  readonly height: number;
  /** Whether it may say where the photo was taken. */
  readonly hasPosition: boolean;
  /** The pixels are as they were stored: nothing that describes them changes. */
  readonly isStored?: boolean;
  /** Its colours became sRGB; else they are what they were. */
  readonly isSrgb?: boolean;
  /** Resolution, pixels an inch, or null to leave what it says. */
  readonly dpi?: number | null;
}

interface Block {
  readonly bytes: Uint8Array;
  readonly view: DataView;
  readonly little: boolean;
}

/**
 * The block (without its `Exif` preamble) for an output whose pixels are upright sRGB of the given
 * size and whose thumbnail is gone, or null where it is not a readable EXIF block.
 */
export function exifForOutput(source: Uint8Array, facts: ExifFacts): Uint8Array | null {
  const block = opened(withoutPreamble(source));
  if (!block) return null;
  const first = block.view.getUint32(4, block.little);
  try {
    if (!facts.isStored) describePixels(block, first, facts);
    if (facts.dpi) {
      setRational(block, first, TAG_X_RESOLUTION, facts.dpi);
      setRational(block, first, TAG_Y_RESOLUTION, facts.dpi);
      setNumber(block, first, TAG_RESOLUTION_UNIT, PER_INCH);
    }
    unlinkThumbnail(block, first);
    if (!facts.hasPosition) removePosition(block, first);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
  return wipePreviews(block.bytes);
}

function describePixels(block: Block, first: number, { width, height, isSrgb }: ExifFacts): void {
  setNumber(block, first, TAG_ORIENTATION, UPRIGHT);
  setNumber(block, first, TAG_IMAGE_WIDTH, width);
  setNumber(block, first, TAG_IMAGE_HEIGHT, height);
  const exif = entryAt(block, first, TAG_EXIF_IFD);
  if (exif === null) return;
  const ifd = block.view.getUint32(exif + 8, block.little);
  if (isSrgb ?? true) setNumber(block, ifd, TAG_COLOUR_SPACE, SRGB);
  setNumber(block, ifd, TAG_PIXEL_WIDTH, width);
  setNumber(block, ifd, TAG_PIXEL_HEIGHT, height);
}

/** A block that says how the picture is turned, and nothing else. */
export function orientationOnly(orientation: number): Uint8Array {
  const block = Buffer.alloc(8 + 2 + ENTRY_BYTES + 4);
  block.write('II', 0, 'latin1');
  block.writeUInt16LE(42, 2);
  block.writeUInt32LE(8, 4);
  block.writeUInt16LE(1, 8);
  block.writeUInt16LE(TAG_ORIENTATION, 10);
  block.writeUInt16LE(TYPE_SHORT, 12);
  block.writeUInt32LE(1, 14);
  block.writeUInt16LE(orientation, 18);
  return block;
}

/** A copy of a block without the `Exif` preamble that JPEG puts in front. */
export function withoutPreamble(source: Uint8Array): Uint8Array {
  const hasPreamble = [...PREAMBLE].every((letter, at) => source[at] === letter.charCodeAt(0));
  // Not slice: that of a Buffer is no copy, and the source's block must stay as it is.
  return Uint8Array.from(source.subarray(hasPreamble ? PREAMBLE.length : 0));
}

function opened(bytes: Uint8Array): Block | null {
  if (bytes.length < 14) return null;
  const order = String.fromCharCode(bytes[0], bytes[1]);
  if (order !== 'II' && order !== 'MM') return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { bytes, view, little: order === 'II' };
}

function entryAt(block: Block, ifd: number, tag: number): number | null {
  const count = block.view.getUint16(ifd, block.little);
  for (let index = 0; index < count; index++) {
    const entry = ifd + 2 + index * ENTRY_BYTES;
    if (block.view.getUint16(entry, block.little) === tag) return entry;
  }
  return null;
}

/** Sets a whole number where the tag is there already; a tag that is missing stays missing. */
function setNumber(block: Block, ifd: number, tag: number, value: number): void {
  const entry = entryAt(block, ifd, tag);
  if (entry === null) return;
  const type = block.view.getUint16(entry + 2, block.little);
  if (type === TYPE_SHORT) block.view.setUint16(entry + 8, value, block.little);
  else if (type === TYPE_LONG) block.view.setUint32(entry + 8, value, block.little);
}

/** The same for a rational number, which lies elsewhere in the block. */
function setRational(block: Block, ifd: number, tag: number, value: number): void {
  const { view, little } = block;
  const entry = entryAt(block, ifd, tag);
  if (entry === null || view.getUint16(entry + 2, little) !== TYPE_RATIONAL) return;
  const at = view.getUint32(entry + 8, little);
  view.setUint32(at, value, little);
  view.setUint32(at + 4, 1, little);
}

/** The second directory describes the thumbnail; without a link to it there is none. */
function unlinkThumbnail(block: Block, ifd: number): void {
  const count = block.view.getUint16(ifd, block.little);
  block.view.setUint32(ifd + 2 + count * ENTRY_BYTES, 0, block.little);
}

/** Bytes of one value of each type, by its number (TIFF 6.0, section 2); the others are of one byte. */
const TYPE_BYTES: Readonly<Record<number, number>> = {
  ...{ 3: 2, 4: 4, 5: 8, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8 },
};
const INLINE_BYTES = 4;

/** Blanks the directory of the position with all its values, and takes the way to it out of the first. */
function removePosition(block: Block, first: number): void {
  const { bytes, view, little } = block;
  const pointer = entryAt(block, first, TAG_GPS_IFD);
  if (pointer === null) return;
  const directory = view.getUint32(pointer + 8, little);
  const count = view.getUint16(directory, little);
  for (let index = 0; index < count; index++) {
    const entry = directory + 2 + index * ENTRY_BYTES;
    const size = TYPE_BYTES[view.getUint16(entry + 2, little)] ?? 1;
    const length = size * view.getUint32(entry + 4, little);
    if (length <= INLINE_BYTES) continue;
    const from = view.getUint32(entry + 8, little);
    bytes.fill(0, from, Math.min(bytes.length, from + length));
  }
  const directoryEnd = directory + 2 + count * ENTRY_BYTES + INLINE_BYTES;
  bytes.fill(0, directory, Math.min(bytes.length, directoryEnd));
  // Entries behind it, and the link to the next directory, move up by one.
  const entries = view.getUint16(first, little);
  const end = first + 2 + entries * ENTRY_BYTES + INLINE_BYTES;
  bytes.copyWithin(pointer, pointer + ENTRY_BYTES, end);
  bytes.fill(0, end - ENTRY_BYTES, end);
  view.setUint16(first, entries - 1, little);
}

/**
 * Overwrites every embedded JPEG: the thumbnail, and the previews that some makers hide in their
 * notes. All of them show the photo without the mark.
 */
function wipePreviews(bytes: Uint8Array): Uint8Array {
  let end = bytes.length;
  for (let at = 0; at + 3 < bytes.length; at++) {
    if (bytes[at] !== 0xff || bytes[at + 1] !== 0xd8 || bytes[at + 2] !== 0xff) continue;
    if (bytes[at + 3] < 0xc0) continue;
    const stop = endOfJpeg(bytes, at);
    bytes.fill(0, at, stop);
    // A picture at the very end is cut off, not just blanked.
    if (stop >= end) end = at;
    at = stop - 1;
  }
  return bytes.subarray(0, end);
}

function endOfJpeg(bytes: Uint8Array, from: number): number {
  for (let at = from + 2; at + 1 < bytes.length; at++) {
    if (bytes[at] === 0xff && bytes[at + 1] === 0xd9) return at + 2;
  }
  return bytes.length;
}
