import type { Bits } from './bits.ts';
import type { BlockKind } from './entropyScan.ts';
import { valueOf, wordAt } from './bitWords.ts';
import {
  BITS,
  COEFFICIENTS,
  COUNT,
  COUNT_AT,
  DIFFERENCE_AT,
  ENDS,
  IS_LAST,
  LOOKED_UP,
  READ_BITS,
  STEP_AT,
  VALUE_BITS_AT,
} from './codeEntries.ts';
import { LONGEST_CODE } from './huffmanTable.ts';
import { unitCodes } from './reading.ts';

/** By the bits that come next, those of a block (see `codeEntries.ts`). */
type Entries = Int32Array;

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
    const difference = valueOf(looked << (32 - LOOKED_UP), end - bits, bits);
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
          at += start & READ_BITS;
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
          at += some & READ_BITS;
          k = after;
          if ((some & ENDS) !== 0) break;
          // Those after it are in the same word, mostly whole: it is not read again for them.
          some = more[(word << (some & READ_BITS)) >>> (32 - LOOKED_UP)];
          after = k + ((some >> COUNT_AT) & COUNT);
          if (some === 0 || after >= COEFFICIENTS) continue;
          at += some & READ_BITS;
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
