import { open } from 'node:fs/promises';

/** Enough for the head and the end of every type that is known by them. */
const EDGE_BYTES = 12;

/**
 * Whether a photo's file ends as its type says, so that nothing more is to come. A file that has something
 * behind its end, and a type that has none, may be whole all the same.
 *
 * JPEG ends with the marker EOI (ITU-T T.81, B.1.1.3), PNG with the chunk IEND (PNG, 11.2.5); WebP says in
 * its head how long it is (RIFF).
 */
export async function looksWhole(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    if (size < 2 * EDGE_BYTES) return false;
    const head = Buffer.alloc(EDGE_BYTES);
    const end = Buffer.alloc(EDGE_BYTES);
    await file.read(head, 0, EDGE_BYTES, 0);
    await file.read(end, 0, EDGE_BYTES, size - EDGE_BYTES);
    if (head.readUInt16BE(0) === 0xffd8) return end.readUInt16BE(EDGE_BYTES - 2) === 0xffd9;
    if (head.toString('latin1', 1, 4) === 'PNG') return end.toString('latin1', 4, 8) === 'IEND';
    if (head.toString('latin1', 0, 4) === 'RIFF') return size >= head.readUInt32LE(4) + 8;
    return true;
  } finally {
    await file.close();
  }
}
