import {
  BITS,
  IS_LAST,
  LOOKED_UP,
  MADE_LENGTH_AT,
  MANY_IS_LAST,
  MANY_STEP,
  MANY_STEP_AT,
  MOST_MADE,
  RECODED_AT,
  STEP_AT,
  VALUE_BITS_AT,
} from './codeEntries.ts';
import { bitsAt, valueOf } from './bitWords.ts';
import { LONGEST_CODE } from './huffmanTable.ts';
import type { Codes } from './reading.ts';

/** By the bits that come next, several codes in one (see `codeEntries.ts`): most are but a few bits long. */
export type ManyCodes = Int32Array;

/** Where a block begins. */
export interface Starts {
  /** The code of its first coefficient, and those of others that lie in the same bits. */
  readonly codes: ManyCodes;
  /** By how much that coefficient differs from the one before it. */
  readonly differences: Int16Array;
}

/** What is read already of the bits that are looked up, and what stands for the same by other tables. */
interface Begun {
  readonly bits: number;
  readonly step: number;
  readonly made: number;
  readonly length: number;
}

const NOTHING: Begun = Object.freeze({ bits: 0, step: 0, made: 0, length: 0 });
const LOOKED = 1 << LOOKED_UP;

export function manyCodesOf(ac: Codes): ManyCodes {
  return Int32Array.from({ length: LOOKED }, (_, looked) => entryFrom(ac, looked, NOTHING));
}

export function startsOf(dc: Codes, ac: Codes): Starts {
  const codes = new Int32Array(LOOKED);
  const differences = new Int16Array(LOOKED);
  for (let looked = 0; looked < LOOKED; looked++) {
    const first = looked << (LONGEST_CODE - LOOKED_UP);
    const entry = dc.one[first];
    const valueBits = entry >> VALUE_BITS_AT;
    const bits = (entry & BITS) + valueBits;
    const length = (dc.recoded[first] & BITS) + valueBits;
    if (entry === 0 || bits > LOOKED_UP || length > MOST_MADE) continue;
    const word = looked << (32 - LOOKED_UP);
    const value = bitsAt(word, bits - valueBits, valueBits);
    differences[looked] = valueOf(word, bits - valueBits, valueBits);
    const made = ((dc.recoded[first] >> RECODED_AT) << valueBits) | value;
    codes[looked] = entryFrom(ac, looked, { bits, step: 1, made, length });
  }
  return { codes, differences };
}

function entryFrom({ one, recoded }: Codes, looked: number, begun: Begun): number {
  let { bits, step, made, length } = begun;
  let last = 0;
  while (last === 0) {
    const rest = (looked << bits) & (LOOKED - 1);
    const next = rest << (LONGEST_CODE - LOOKED_UP);
    const entry = one[next];
    const count = entry & BITS;
    const valueBits = entry >> VALUE_BITS_AT;
    const madeBits = (recoded[next] & BITS) + valueBits;
    const after = step + ((entry >> STEP_AT) & BITS);
    const isFull = bits + count > LOOKED_UP || length + madeBits > MOST_MADE || after > MANY_STEP;
    if (entry === 0 || isFull) break;
    const value = (rest >> (LOOKED_UP - count)) & ((1 << valueBits) - 1);
    made = (made << madeBits) | ((recoded[next] >> RECODED_AT) << valueBits) | value;
    length += madeBits;
    bits += count;
    step = after;
    if ((entry & IS_LAST) !== 0) last = MANY_IS_LAST;
  }
  if (bits === 0) return 0;
  return (
    bits | (step << MANY_STEP_AT) | last | (length << MADE_LENGTH_AT) | (made << (32 - length))
  );
}
