/**
 * Memory for the samples of a photo, used again for the next. Taken from the system anew, its pages have to
 * be cleared first, which is a quarter of the time that decoding into them takes; and each time so much is
 * taken, all else that JavaScript holds is looked through.
 */

/** A process that is left alone does not keep it. */
const KEPT_MS = 5_000;

/** Of the largest cameras. Room for more would crowd the memory while smaller photos are worked on. */
const MOST_KEPT_BYTES = 3 * 64_000_000;

/** Of a whole photo, and of one that is read back. */
const MOST_ROOMS = 2;

/** What was taken from here: nothing else may be handed in. */
const ours = new WeakSet<ArrayBufferLike>();
/** The smallest first. */
let free: ArrayBufferLike[] = [];
let forgetting: NodeJS.Timeout | null = null;

/** With what was in it before. @returns exactly as many bytes */
export function takeRoom(bytes: number): Uint8ClampedArray {
  const room = free.find(({ byteLength }) => byteLength >= bytes) ?? newRoom(bytes);
  free = free.filter((other) => other !== room);
  return new Uint8ClampedArray(room, 0, bytes);
}

/** From then on, nobody may read or write it. Samples that lie elsewhere are left alone. */
export function giveRoomBack({ buffer }: { readonly buffer: ArrayBufferLike }): void {
  if (!ours.has(buffer) || buffer.byteLength > MOST_KEPT_BYTES || free.includes(buffer)) return;
  free = [...free, buffer].sort((a, b) => a.byteLength - b.byteLength).slice(-MOST_ROOMS);
  if (forgetting) clearTimeout(forgetting);
  forgetting = setTimeout(() => (free = []), KEPT_MS).unref();
}

function newRoom(bytes: number): ArrayBufferLike {
  const { buffer } = Buffer.allocUnsafeSlow(bytes);
  ours.add(buffer);
  return buffer;
}
