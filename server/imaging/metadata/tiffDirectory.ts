/**
 * Adds EXIF to a TIFF that has none, by appending: a new first directory holds the old entries and
 * the camera's, and the header is pointed at it. Offsets of the old entries stay good, since nothing
 * in front of them moves (TIFF 6.0, section 2).
 */

const TAG_EXIF_IFD = 0x8769;
const TAG_GPS_IFD = 0x8825;
const TAG_INTEROPERABILITY_IFD = 0xa005;
const TAG_MAKER_NOTE = 0x927c;
const TYPE_LONG = 4;
const ENTRY_BYTES = 12;

/** Bytes of one value by TIFF type; types 1 to 13. */
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4];

/** Of the source's first directory, what describes the photo; the rest describes its old pixels. */
const DESCRIBING_TAGS: ReadonlySet<number> = new Set([
  0x010e, 0x010f, 0x0110, 0x0131, 0x0132, 0x013b, 0x4746, 0x4749, 0x8298,
]);

const SUB_DIRECTORIES: ReadonlySet<number> = new Set([
  TAG_EXIF_IFD,
  TAG_GPS_IFD,
  TAG_INTEROPERABILITY_IFD,
]);

interface Entry {
  readonly tag: number;
  readonly type: number;
  readonly count: number;
  /** Little-endian. */
  readonly value: Buffer;
  readonly directory: Entry[] | null;
}

/** @param exif a TIFF structure of either byte order; @param tiff little-endian, as encoded here */
export function withTiffExif(tiff: Buffer, exif: Uint8Array): Buffer {
  try {
    const camera = readDirectory(exif).filter(
      (entry) => DESCRIBING_TAGS.has(entry.tag) || entry.directory,
    );
    const oldAt = tiff.readUInt32LE(4);
    const old = rawEntries(tiff, oldAt);
    const taken = new Set(old.map((entry) => entry.readUInt16LE(0)));
    const base = tiff.length + (tiff.length % 2);
    const nextDirectory = tiff.readUInt32LE(oldAt + 2 + old.length * ENTRY_BYTES);
    const fresh = camera.filter((entry) => !taken.has(entry.tag));
    const appended = writeDirectory(fresh, base, old, nextDirectory);
    const header = Buffer.from(tiff.subarray(0, 8));
    header.writeUInt32LE(base, 4);
    return Buffer.concat([header, tiff.subarray(8), Buffer.alloc(base - tiff.length), appended]);
  } catch (error) {
    // A camera block that cannot be followed is not worth losing the output for.
    if (error instanceof RangeError) return tiff;
    throw error;
  }
}

function rawEntries(tiff: Buffer, at: number): Buffer[] {
  return Array.from({ length: tiff.readUInt16LE(at) }, (_, index) => {
    const start = at + 2 + index * ENTRY_BYTES;
    return tiff.subarray(start, start + ENTRY_BYTES);
  });
}

function readDirectory(block: Uint8Array): Entry[] {
  const view = new DataView(block.buffer, block.byteOffset, block.byteLength);
  const little = block[0] === 0x49;
  return entriesAt(view, view.getUint32(4, little), little);
}

function entriesAt(view: DataView, at: number, little: boolean): Entry[] {
  const entries: Entry[] = [];
  const count = view.getUint16(at, little);
  for (let index = 0; index < count; index++) {
    const start = at + 2 + index * ENTRY_BYTES;
    const tag = view.getUint16(start, little);
    const type = view.getUint16(start + 2, little);
    const values = view.getUint32(start + 4, little);
    const unit = TYPE_BYTES[type] ?? 0;
    // A maker's note holds offsets of its own; moved, it would be noise.
    if (unit === 0 || tag === TAG_MAKER_NOTE) continue;
    const inline = unit * values <= 4;
    const from = inline ? start + 8 : view.getUint32(start + 8, little);
    const value = littleEndian(view, from, type, values, little);
    const directory = SUB_DIRECTORIES.has(tag)
      ? entriesAt(view, view.getUint32(start + 8, little), little)
      : null;
    entries.push({ tag, type, count: values, value, directory });
  }
  return entries;
}

function littleEndian(
  view: DataView,
  from: number,
  type: number,
  count: number,
  little: boolean,
): Buffer {
  const bytes = TYPE_BYTES[type] * count;
  if (from + bytes > view.byteLength) throw new RangeError('an EXIF value lies outside its block');
  const value = Buffer.from(new Uint8Array(view.buffer, view.byteOffset + from, bytes));
  if (little) return value;
  // Rationals are two numbers of four bytes each.
  const word = type === 5 || type === 10 ? 4 : TYPE_BYTES[type];
  if (word === 2) return value.swap16();
  if (word === 4) return value.swap32();
  if (word === 8) return value.swap64();
  return value;
}

function writeDirectory(entries: Entry[], base: number, ready: Buffer[], next: number): Buffer {
  const total = entries.length + ready.length;
  const headBytes = 2 + total * ENTRY_BYTES + 4;
  const tail: Buffer[] = [];
  let tailAt = base + headBytes;
  const put = (bytes: Buffer): number => {
    const at = tailAt;
    const padded = bytes.length % 2 ? Buffer.concat([bytes, Buffer.alloc(1)]) : bytes;
    tail.push(padded);
    tailAt += padded.length;
    return at;
  };
  const written = entries.map((entry) => {
    const field = Buffer.alloc(ENTRY_BYTES);
    field.writeUInt16LE(entry.tag, 0);
    field.writeUInt16LE(entry.directory ? TYPE_LONG : entry.type, 2);
    field.writeUInt32LE(entry.directory ? 1 : entry.count, 4);
    if (entry.directory)
      field.writeUInt32LE(put(writeDirectory(entry.directory, tailAt, [], 0)), 8);
    else if (entry.value.length <= 4) entry.value.copy(field, 8);
    else field.writeUInt32LE(put(entry.value), 8);
    return field;
  });
  const head = Buffer.alloc(headBytes);
  head.writeUInt16LE(total, 0);
  [...ready, ...written]
    .sort((a, b) => a.readUInt16LE(0) - b.readUInt16LE(0))
    .forEach((field, index) => field.copy(head, 2 + index * ENTRY_BYTES));
  head.writeUInt32LE(next, headBytes - 4);
  return Buffer.concat([head, ...tail]);
}
