import type { Bits } from './bits.ts';
import type { BlockKind } from './entropyScan.ts';
import { BLOCK, ONE_CODE } from './codeEntries.ts';
import { LONGEST_CODE } from './huffmanTable.ts';
import { unitCodes } from './reading.ts';

/** Bits that are looked up at once. */
const LOOKED_UP = 13;
/** Of a code and its value that do not lie in those. */
const { BITS, STEP_AT, IS_LAST, VALUE_BITS_AT } = ONE_CODE;

/**
 * An entry by the bits that come next: how many of them are codes that lie in them whole, how many coefficients
 * these stand for, whether those are the block's last, and by how much the first differs from the one before
 * it; 0: not one code lies in them whole.
 */
type Entries = Int32Array;
const CODE_BITS = 0x1f;
const COUNT_AT = 5;
const COUNT = 0x7f;
const ENDS = 1 << 12;
const DIFFERENCE_AT = 16;

const { COEFFICIENTS } = BLOCK;

/** How the blocks of a unit are read, in order. */
export interface MeanReading {
  readonly components: readonly number[];
  /** Where a block begins: its first coefficient, and others that lie in the same bits. */
  readonly starts: readonly Entries[];
  readonly others: readonly Entries[];
  /** By 16 bits, what does not lie in fewer. */
  readonly dc: readonly Int32Array[];
  readonly ac: readonly Int32Array[];
}

export function meanReadingOf(blocks: readonly BlockKind[]): MeanReading {
  const codes = unitCodes(blocks, blocks);
  const dc = codes.dc.map(({ one }) => one);
  const ac = codes.ac.map(({ one }) => one);
  const starts: Entries[] = [];
  const others: Entries[] = [];
  blocks.forEach((_, block) => {
    // The blocks of both colours are mostly read by the same tables.
    const same = ac.findIndex((one, at) => one === ac[block] && dc[at] === dc[block]);
    starts.push(starts[same] ?? startsOf(dc[block], ac[block]));
    others.push(others[same] ?? entries((looked) => othersFrom(ac[block], looked, 0, 0)));
  });
  return { components: blocks.map(({ component }) => component), dc, ac, starts, others };
}

const entries = (entry: (looked: number) => number): Entries =>
  Int32Array.from({ length: 1 << LOOKED_UP }, (_, looked) => entry(looked));

function startsOf(dc: Int32Array, ac: Int32Array): Entries {
  return entries((looked) => {
    const entry = dc[looked << (LONGEST_CODE - LOOKED_UP)];
    const bits = entry >> VALUE_BITS_AT;
    const end = (entry & BITS) + bits;
    if (entry === 0 || end > LOOKED_UP) return 0;
    const value = (looked >> (LOOKED_UP - end)) & ((1 << bits) - 1);
    // What begins with 0 is negative (T.81, F.2.2.1).
    const isNegative = bits > 0 && value >> (bits - 1) === 0;
    const difference = isNegative ? value + 1 - (1 << bits) : value;
    return othersFrom(ac, looked, end, 1) | (difference << DIFFERENCE_AT);
  });
}

/** @param bits that are taken of those already @param count coefficients that they stand for */
function othersFrom(ac: Int32Array, looked: number, bits: number, count: number): number {
  for (;;) {
    const rest = (looked << bits) & ((1 << LOOKED_UP) - 1);
    const entry = ac[rest << (LONGEST_CODE - LOOKED_UP)];
    const after = count + ((entry >> STEP_AT) & BITS);
    const isFull = bits + (entry & BITS) > LOOKED_UP || after >= COEFFICIENTS;
    if (entry === 0 || isFull) return bits | (count << COUNT_AT);
    bits += entry & BITS;
    count = after;
    if ((entry & IS_LAST) !== 0) return bits | (count << COUNT_AT) | ENDS;
  }
}

/** Reads over the units of a stretch, of which it keeps nothing but the first coefficients. */
export class MeanReader {
  /** Place of the next bit. */
  private at = 0;
  /** Those of the last blocks, by component. */
  readonly firsts = new Int32Array(4);

  constructor(
    private readonly bits: Bits,
    private readonly reading: MeanReading,
  ) {}

  /** Less than a byte is left, of what fills up the last one. */
  get isAtEnd(): boolean {
    return this.at <= this.bits.count && this.bits.count - this.at < 8;
  }

  /** @returns false where what is there cannot be read */
  pass(units: number): boolean {
    const { firsts } = this;
    const { words, count } = this.bits;
    const { components, starts, others, dc, ac } = this.reading;
    let { at } = this;
    for (let unit = 0; unit < units; unit++) {
      for (let block = 0; block < components.length; block++) {
        let word = wordAt(words, at);
        const start = starts[block][word >>> (32 - LOOKED_UP)];
        let k = (start >> COUNT_AT) & COUNT;
        if (start === 0) {
          const entry = dc[block][word >>> 16];
          if (entry === 0) return false;
          firsts[components[block]] += valueOf(word, entry & BITS, entry >> VALUE_BITS_AT);
          at += (entry & BITS) + (entry >> VALUE_BITS_AT);
          k = 1;
        } else {
          firsts[components[block]] += start >> DIFFERENCE_AT;
          at += start & CODE_BITS;
          if ((start & ENDS) !== 0) continue;
        }
        const more = others[block];
        while (k < COEFFICIENTS) {
          word = wordAt(words, at);
          let some = more[word >>> (32 - LOOKED_UP)];
          let after = k + ((some >> COUNT_AT) & COUNT);
          // What follows the last coefficient is the next block's, which no entry knows.
          if (some === 0 || after >= COEFFICIENTS) {
            const one = ac[block][word >>> 16];
            if (one === 0) return false;
            at += one & BITS;
            k += (one >> STEP_AT) & BITS;
            if ((one & IS_LAST) !== 0) break;
            continue;
          }
          at += some & CODE_BITS;
          k = after;
          if ((some & ENDS) !== 0) break;
          // Those after it are in the same word, mostly whole: it is not read again for them.
          some = more[(word << (some & CODE_BITS)) >>> (32 - LOOKED_UP)];
          after = k + ((some >> COUNT_AT) & COUNT);
          if (some === 0 || after >= COEFFICIENTS) continue;
          at += some & CODE_BITS;
          k = after;
          if ((some & ENDS) !== 0) break;
        }
        if (k > COEFFICIENTS) return false;
      }
      if (at > count) return false;
    }
    this.at = at;
    return true;
  }
}

/** 32 bits from a place on. Here again, as below: functions of other files are looked up each time. */
function wordAt(words: Int32Array, at: number): number {
  const index = at >>> 5;
  const shift = at & 31;
  return (words[index] << shift) | ((words[index + 1] >>> 1) >>> (31 - shift));
}

/** @param bits 0 to 15 */
function valueOf(word: number, codeBits: number, bits: number): number {
  const value = ((word << codeBits) >>> 1) >>> (31 - bits);
  const isPositive = (word << codeBits) >> 31;
  return value + (~isPositive & (1 - (1 << bits)));
}
