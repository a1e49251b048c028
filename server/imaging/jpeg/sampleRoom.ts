/**
 * Memory for the samples of a photo, used again for the next. Taken from the system anew, its pages have to
 * be cleared first, which is a quarter of the time that decoding into them takes.
 */

/** A process that is left alone does not keep it. */
const KEPT_MS = 5_000;

/** Of the largest cameras. Room for more would crowd the memory while smaller photos are worked on. */
const MOST_KEPT_BYTES = 3 * 64_000_000;

/** What was taken from here: nothing else may be handed in. */
const ours = new WeakSet<ArrayBufferLike>();
let free: ArrayBufferLike | null = null;
let forgetting: NodeJS.Timeout | null = null;

/** With what was in it before. @returns exactly as many bytes */
export function takeRoom(bytes: number): Uint8ClampedArray {
  const room = free && free.byteLength >= bytes ? free : newRoom(bytes);
  if (room === free) free = null;
  return new Uint8ClampedArray(room, 0, bytes);
}

/** From then on, nobody may read or write it. Samples that lie elsewhere are left alone. */
export function giveRoomBack({ buffer }: { readonly buffer: ArrayBufferLike }): void {
  const isSmaller = free !== null && free.byteLength > buffer.byteLength;
  if (!ours.has(buffer) || isSmaller || buffer.byteLength > MOST_KEPT_BYTES) return;
  free = buffer;
  if (forgetting) clearTimeout(forgetting);
  forgetting = setTimeout(() => (free = null), KEPT_MS).unref();
}

function newRoom(bytes: number): ArrayBufferLike {
  const { buffer } = Buffer.allocUnsafeSlow(bytes);
  ours.add(buffer);
  return buffer;
}
