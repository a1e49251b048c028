import type { Bits, BitWriter } from './bits.ts';
import { bitsAt, valueOf, wordAt } from './bitWords.ts';
import {
  BITS,
  COEFFICIENTS,
  IS_LAST,
  LOOKED_UP,
  MADE,
  MADE_LENGTH,
  MADE_LENGTH_AT,
  MANY_BITS,
  MANY_IS_LAST,
  MANY_STEP,
  MANY_STEP_AT,
  MOST_BITS,
  RECODED_AT,
  STEP_AT,
  VALUE_BITS_AT,
} from './codeEntries.ts';
import type { Reading } from './reading.ts';

/** Reads the units of a stretch, one after the other. */
export class BlockReader {
  /** Place of the next bit. */
  at = 0;
  /** The first coefficients of the last blocks, by component: the next are told as differences. */
  readonly firsts = new Int32Array(4);

  constructor(
    private readonly bits: Bits,
    private readonly reading: Reading,
  ) {}

  /** Less than a byte is left, of what fills up the last one. */
  get isAtEnd(): boolean {
    return this.at <= this.bits.count && this.bits.count - this.at < 8;
  }

  /**
   * Moves units to the other tables' codes, as they are. All that a photo has goes through here: what is to be
   * written is put together by arithmetic, since a condition that is as often true as not takes longer.
   *
   * @returns false where what is there cannot be read
   */
  recode(units: number, into: BitWriter): boolean {
    const { firsts } = this;
    const { words, count } = this.bits;
    const { components, dc, ac, starts, differences, many, recoded, growth } = this.reading;
    const most = units * components.length * COEFFICIENTS * MOST_BITS;
    into.reserve(Math.min(Math.ceil(growth * (count - this.at)), most));
    const made = into.words;
    let { at } = this;
    let end = into.at;
    /** What was put into the word at the end. */
    let open = (end & 31) === 0 ? 0 : made[end >>> 5];
    for (let unit = 0; unit < units; unit++) {
      for (let block = 0; block < components.length; block++) {
        let word = wordAt(words, at);
        const first = word >>> (32 - LOOKED_UP);
        let some = starts[block][first];
        let k = 1;
        let isLast = 0;
        let same = 0;
        let length = 0;
        let put = 0;
        if (some === 0) {
          const entry = dc[block][word >>> 16];
          if (entry === 0) return false;
          const code = entry & BITS;
          const bits = entry >> VALUE_BITS_AT;
          firsts[components[block]] += valueOf(word, code, bits);
          at += code + bits;
          same = recoded.dc[block][word >>> 16];
          length = (same & BITS) + bits;
          put = withValue(same, word, code, bits) << (32 - length);
        } else {
          firsts[components[block]] += differences[block][first];
          at += some & MANY_BITS;
          k = (some >> MANY_STEP_AT) & MANY_STEP;
          isLast = some & MANY_IS_LAST;
          length = (some >> MADE_LENGTH_AT) & MADE_LENGTH;
          put = some & MADE;
        }
        made[end >>> 5] = open |= put >>> (end & 31);
        open = nextOpen(open, put, end & 31, length);
        end += length;
        const others = many[block];
        while (k < COEFFICIENTS && isLast === 0) {
          word = wordAt(words, at);
          some = others[word >>> (32 - LOOKED_UP)];
          let after = k + ((some >> MANY_STEP_AT) & MANY_STEP);
          // What lies beyond the last coefficient is the next block's.
          if (some === 0 || after >= COEFFICIENTS) {
            const one = ac[block][word >>> 16];
            if (one === 0) return false;
            const valueBits = one >> VALUE_BITS_AT;
            at += one & BITS;
            k += (one >> STEP_AT) & BITS;
            isLast = one & IS_LAST;
            same = recoded.ac[block][word >>> 16];
            length = (same & BITS) + valueBits;
            put = withValue(same, word, (one & BITS) - valueBits, valueBits) << (32 - length);
            made[end >>> 5] = open |= put >>> (end & 31);
            open = nextOpen(open, put, end & 31, length);
            end += length;
            continue;
          }
          length = (some >> MADE_LENGTH_AT) & MADE_LENGTH;
          put = some & MADE;
          made[end >>> 5] = open |= put >>> (end & 31);
          open = nextOpen(open, put, end & 31, length);
          end += length;
          at += some & MANY_BITS;
          k = after;
          isLast = some & MANY_IS_LAST;
          if (isLast !== 0) break;
          // Those after it are in the same word, mostly whole: it is not read again for them.
          some = others[(word << (some & MANY_BITS)) >>> (32 - LOOKED_UP)];
          after = k + ((some >> MANY_STEP_AT) & MANY_STEP);
          if (some === 0 || after >= COEFFICIENTS) continue;
          length = (some >> MADE_LENGTH_AT) & MADE_LENGTH;
          put = some & MADE;
          made[end >>> 5] = open |= put >>> (end & 31);
          open = nextOpen(open, put, end & 31, length);
          end += length;
          at += some & MANY_BITS;
          k = after;
          isLast = some & MANY_IS_LAST;
        }
        if (k > COEFFICIENTS) return false;
      }
      if (at > count) return false;
    }
    made[end >>> 5] = open;
    into.at = end;
    this.at = at;
    return true;
  }

  /**
   * @param into the unit's coefficients, block after block, each in the order of the file
   * @returns false where what is there cannot be read
   */
  read(into: Int16Array): boolean {
    const { words, count } = this.bits;
    into.fill(0);
    const { components, dc, ac } = this.reading;
    for (let block = 0; block < components.length; block++) {
      const first = block * COEFFICIENTS;
      const next = wordAt(words, this.at);
      const entry = dc[block][next >>> 16];
      if (entry === 0) return false;
      const [code, bits] = [entry & BITS, entry >> VALUE_BITS_AT];
      this.firsts[components[block]] += valueOf(next, code, bits);
      into[first] = this.firsts[components[block]];
      this.at += code + bits;
      for (let k = 1; k < COEFFICIENTS;) {
        const word = wordAt(words, this.at);
        const one = ac[block][word >>> 16];
        if (one === 0) return false;
        this.at += one & BITS;
        if ((one & IS_LAST) !== 0) break;
        k += (one >> STEP_AT) & BITS;
        if (k > COEFFICIENTS) return false;
        const valueBits = one >> VALUE_BITS_AT;
        into[first + k - 1] = valueOf(word, (one & BITS) - valueBits, valueBits);
      }
    }
    return this.at <= count;
  }
}

/** A code by the other tables, followed by the value in a word. @param codeBits before it, in the word */
function withValue(recoded: number, word: number, codeBits: number, bits: number): number {
  return ((recoded >>> RECODED_AT) << bits) | bitsAt(word, codeBits, bits);
}

/** The word at the end, once more was put: the same one, or what went over into the next. */
function nextOpen(open: number, put: number, from: number, length: number): number {
  const isOver = (31 - from - length) >> 31;
  return (open & ~isOver) | (((put << 1) << (31 - from)) & isOver);
}
