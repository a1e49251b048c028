/**
 * The image resources of an APP13 block. Only the caption record (IPTC) is taken over: other
 * resources hold paths, print settings and, in two of them, a thumbnail of the unmarked photo.
 */

const HEADER = 'Photoshop 3.0\0';
const SIGNATURE = '8BIM';
const RESOURCE_IPTC = 0x0404;

/** A block with the caption record alone, or null where there is none. */
export function iptcOnly(source: Uint8Array): Uint8Array | null {
  const bytes = Buffer.from(source.buffer, source.byteOffset, source.byteLength);
  let at = bytes.toString('latin1', 0, HEADER.length) === HEADER ? HEADER.length : 0;
  while (at + 12 <= bytes.length && bytes.toString('latin1', at, at + 4) === SIGNATURE) {
    const id = bytes.readUInt16BE(at + 4);
    const nameBytes = even(1 + bytes[at + 6]);
    const sizeAt = at + 6 + nameBytes;
    if (sizeAt + 4 > bytes.length) return null;
    const next = sizeAt + 4 + even(bytes.readUInt32BE(sizeAt));
    if (id === RESOURCE_IPTC) {
      return Buffer.concat([Buffer.from(HEADER, 'latin1'), bytes.subarray(at, next)]);
    }
    at = next;
  }
  return null;
}

/** The records within a block that holds the caption alone. */
export function captionRecords(block: Uint8Array): Buffer {
  const bytes = Buffer.from(block.buffer, block.byteOffset, block.byteLength);
  const at = HEADER.length;
  const sizeAt = at + 6 + even(1 + bytes[at + 6]);
  return bytes.subarray(sizeAt + 4, sizeAt + 4 + bytes.readUInt32BE(sizeAt));
}

/** A block that holds these records as its caption, and nothing else. */
export function captionBlock(records: Buffer): Uint8Array {
  const head = Buffer.alloc(12);
  head.write(SIGNATURE, 0, 'latin1');
  head.writeUInt16BE(RESOURCE_IPTC, 4);
  // Its name, of no letters, padded to an even length.
  head.writeUInt32BE(records.length, 8);
  const padding = Buffer.alloc(records.length % 2);
  return Buffer.concat([Buffer.from(HEADER, 'latin1'), head, records, padding]);
}

function even(length: number): number {
  return length + (length % 2);
}
