import type { Rights } from './rights.ts';

/**
 * Artist and copyright in an EXIF block (CIPA DC-008). The first directory is written anew behind
 * everything else, and the header pointed at it: nothing that is there moves, since makers' notes hold
 * offsets that no one else can correct. Texts are UTF-8, which readers take for what the standard calls
 * ASCII.
 */

const TAG_ARTIST = 0x013b;
const TAG_COPYRIGHT = 0x8298;
const TYPE_ASCII = 2;
const ENTRY_BYTES = 12;
const INLINE_BYTES = 4;
/** Little-endian, 42, no directory yet. */
const EMPTY = Uint8Array.from([0x49, 0x49, 42, 0, 0, 0, 0, 0]);

/** @param block without its `Exif` preamble, or null for a new one */
export function withExifRights(
  block: Uint8Array | null,
  { artist, copyright }: Pick<Rights, 'artist' | 'copyright'>,
): Uint8Array | null {
  const texts = new Map<number, string>();
  if (artist !== null) texts.set(TAG_ARTIST, artist);
  if (copyright !== null) texts.set(TAG_COPYRIGHT, copyright);
  if (texts.size === 0) return block;
  try {
    return appended(block ?? EMPTY, texts);
  } catch (error) {
    // A directory that cannot be followed is not copied: the rights count more.
    if (error instanceof RangeError) return appended(EMPTY, texts);
    throw error;
  }
}

function appended(block: Uint8Array, texts: ReadonlyMap<number, string>): Uint8Array {
  const bytes = Buffer.from(block);
  const little = bytes[0] === 0x49;
  const u16 = (at: number): number => (little ? bytes.readUInt16LE(at) : bytes.readUInt16BE(at));
  const u32 = (at: number): number => (little ? bytes.readUInt32LE(at) : bytes.readUInt32BE(at));
  const first = u32(4);
  const old = Array.from({ length: first === 0 ? 0 : u16(first) }, (_, index) => {
    const at = first + 2 + index * ENTRY_BYTES;
    if (at + ENTRY_BYTES > bytes.length) throw new RangeError('a directory lies outside its block');
    return { tag: u16(at), entry: bytes.subarray(at, at + ENTRY_BYTES) };
  }).filter(({ tag }) => !texts.has(tag));
  const next = first === 0 ? 0 : u32(first + 2 + u16(first) * ENTRY_BYTES);

  const count = old.length + texts.size;
  const base = bytes.length + (bytes.length % 2);
  const directory = Buffer.alloc(2 + count * ENTRY_BYTES + 4);
  const put16 = (value: number, at: number, into = directory): number =>
    little ? into.writeUInt16LE(value, at) : into.writeUInt16BE(value, at);
  const put32 = (value: number, at: number, into = directory): number =>
    little ? into.writeUInt32LE(value, at) : into.writeUInt32BE(value, at);

  const tail: Buffer[] = [];
  let tailAt = base + directory.length;
  const fresh = [...texts].map(([tag, text]) => {
    const value = Buffer.from(`${text}\0`, 'utf8');
    const entry = Buffer.alloc(ENTRY_BYTES);
    put16(tag, 0, entry);
    put16(TYPE_ASCII, 2, entry);
    put32(value.length, 4, entry);
    if (value.length <= INLINE_BYTES) value.copy(entry, 8);
    else {
      put32(tailAt, 8, entry);
      const padded = Buffer.concat([value, Buffer.alloc(value.length % 2)]);
      tail.push(padded);
      tailAt += padded.length;
    }
    return { tag, entry };
  });
  put16(count, 0);
  [...old, ...fresh]
    .sort((a, b) => a.tag - b.tag)
    .forEach(({ entry }, index) => entry.copy(directory, 2 + index * ENTRY_BYTES));
  put32(next, directory.length - 4);
  const head = Buffer.concat([bytes, Buffer.alloc(base - bytes.length)]);
  put32(base, 4, head);
  return Buffer.concat([head, directory, ...tail]);
}
