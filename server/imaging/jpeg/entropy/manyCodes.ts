import { MANY_CODES, ONE_CODE } from './codeEntries.ts';
import { LONGEST_CODE } from './huffmanTable.ts';
import type { Codes } from './reading.ts';

const { BITS, STEP_AT, IS_LAST, VALUE_BITS_AT, RECODED_AT } = ONE_CODE;
const { LOOKED_UP, MANY_STEP_AT, MANY_STEP, MANY_IS_LAST, MADE_LENGTH_AT, MOST_MADE } = MANY_CODES;

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
    const value = (looked >> (LOOKED_UP - bits)) & ((1 << valueBits) - 1);
    // What begins with 0 is negative (T.81, F.2.2.1).
    const isNegative = valueBits > 0 && value >> (valueBits - 1) === 0;
    differences[looked] = isNegative ? value + 1 - (1 << valueBits) : value;
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
  return bits | (step << MANY_STEP_AT) | last | (length << MADE_LENGTH_AT) | (made << (32 - length));
}
