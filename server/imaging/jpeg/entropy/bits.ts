import { giveRoomBack, takeRoom } from '../sampleRoom.ts';

/** Bits of a stretch of coefficients, in words of 32, the first bit the highest. */
export interface Bits {
  /** With two words of ones more than there are bits. */
  readonly words: Int32Array;
  readonly count: number;
}

const WORD_BYTES = 4;
const SPARE_WORDS = 2;
const MARK = 0xff;
/** So that a place among the bits is a whole number of 32 bits, which are the fast ones. */
const MOST_BYTES = 2 ** 28 - (SPARE_WORDS + 1) * WORD_BYTES;

/** Those of a file: there, a byte of ones is followed by 0. @returns null where there are too many */
export function bitsOf(jpeg: Buffer, from: number, to: number): Bits | null {
  if (to - from > MOST_BYTES) return null;
  const words = wordsFor(wordBytes(to - from) / WORD_BYTES + SPARE_WORDS);
  const bytes = Buffer.from(words.buffer, 0, words.byteLength);
  let length = 0;
  for (let at = from; at < to;) {
    const mark = jpeg.indexOf(MARK, at);
    const end = mark < 0 ? to : Math.min(to, mark + 1);
    length += jpeg.copy(bytes, length, at, end);
    at = end === mark + 1 ? end + 1 : end;
  }
  bytes.fill(MARK, length).swap32();
  return { words, count: length * 8 };
}

const wordBytes = (bytes: number): number => Math.ceil(bytes / WORD_BYTES) * WORD_BYTES;

/** Less is taken anew each time. */
const LEAST_ROOM_WORDS = 2 ** 15;

/** With anything in them: to clear them takes longer than to fill them. */
function wordsFor(words: number): Int32Array {
  const bytes = Math.ceil(words) * WORD_BYTES;
  const room = words < LEAST_ROOM_WORDS ? Buffer.allocUnsafeSlow(bytes) : takeRoom(bytes);
  return new Int32Array(room.buffer, 0, bytes / WORD_BYTES);
}

/** Bits that are put one after the other. */
export class BitWriter {
  words: Int32Array;
  /** Place of the next one. */
  at = 0;

  /** @param words how many there will be, about */
  constructor(words: number) {
    this.words = wordsFor(words + 1);
  }

  /** So many may be put from now on; to be told before. */
  reserve(bits: number): void {
    const needed = ((this.at + bits) >>> 5) + 2;
    if (needed <= this.words.length) return;
    const larger = wordsFor(Math.max(needed, 2 * this.words.length));
    larger.set(this.words.subarray(0, (this.at >>> 5) + 1));
    giveRoomBack(this.words);
    this.words = larger;
  }

  /** @param value of no more bits than that @param bits 1 to 31 */
  put(value: number, bits: number): void {
    const index = this.at >>> 5;
    const over = (this.at & 31) + bits - 32;
    // Words that nothing was put into hold anything.
    const open = (this.at & 31) === 0 ? 0 : this.words[index];
    if (over <= 0) this.words[index] = open | (value << -over);
    else {
      this.words[index] = open | (value >>> over);
      this.words[index + 1] = value << (32 - over);
    }
    this.at += bits;
  }

  /** Bits as they are. @param from, to their places */
  copy(words: Int32Array, from: number, to: number): void {
    this.reserve(to - from);
    const bits = Math.min(to - from, 32 - (this.at & 31));
    from = this.copyFew(words, from, from + bits);
    const shift = from & 31;
    let source = from >>> 5;
    let index = this.at >>> 5;
    const whole = (to - from) >>> 5;
    for (const end = index + whole; index < end; index++, source++) {
      this.words[index] = (words[source] << shift) | ((words[source + 1] >>> 1) >>> (31 - shift));
    }
    this.at += 32 * whole;
    this.copyFew(words, from + 32 * whole, to);
  }

  private copyFew(words: Int32Array, from: number, to: number): number {
    for (; from < to; from++) this.put((words[from >>> 5] >>> (31 - (from & 31))) & 1, 1);
    return to;
  }

  /** From then on, they can be neither read nor written. */
  giveBack(): void {
    giveRoomBack(this.words);
    this.words = new Int32Array();
  }

  /** As they stand in a file, filled up with ones; given back with that. */
  bytes(): Buffer {
    this.reserve(8);
    const missing = (8 - (this.at & 7)) & 7;
    if (missing > 0) this.put((1 << missing) - 1, missing);
    const { buffer } = this.words;
    const words = Buffer.from(buffer, 0, ((this.at + 31) >>> 5) * WORD_BYTES).swap32();
    const result = stuffed(words.subarray(0, this.at >>> 3));
    this.giveBack();
    return result;
  }
}

function stuffed(bytes: Buffer): Buffer {
  const marks: number[] = [];
  for (let at = bytes.indexOf(MARK); at >= 0; at = bytes.indexOf(MARK, at + 1)) marks.push(at + 1);
  const result = Buffer.alloc(bytes.length + marks.length);
  let from = 0;
  for (const [index, end] of [...marks, bytes.length].entries()) {
    bytes.copy(result, from + index, from, end);
    from = end;
  }
  return result;
}
