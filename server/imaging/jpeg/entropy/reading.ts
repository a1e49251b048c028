import { BITS, IS_LAST, LOOKED_UP, RECODED_AT, STEP_AT, VALUE_BITS_AT } from './blockReader.ts';
import type { BlockKind } from './entropyScan.ts';
import { codesOf, END_OF_BLOCK, LONGEST_CODE, SIXTEEN_ZEROS } from './huffmanTable.ts';
import type { HuffmanTable } from './huffmanTable.ts';

/** By the bits that come next, what they mean (see `blockReader.ts`). */
type LookUp = Int32Array;

/** What stands for the same by other tables: so many bits, and above that number the bits themselves. */
type Recoding = Int32Array;

/** How the blocks of a unit are read, in order. */
export interface Reading {
  readonly components: readonly number[];
  /** By 16 bits: a code, its value not yet. */
  readonly dc: readonly LookUp[];
  /** By 16 bits: a code with its value. */
  readonly ac: readonly LookUp[];
  /** Of codes, without values. */
  readonly recoded: { readonly dc: readonly Recoding[]; readonly ac: readonly Recoding[] };
  /** By fewer: all codes that lie in them whole, with their values; beside each entry, what they become. */
  readonly several: readonly (LookUp & Recoding)[];
  /** No code becomes longer by more than this factor. */
  readonly growth: number;
}

/**
 * @param blocks of a unit
 * @param others the tables that they are to be written by
 */
export function readingOf(blocks: readonly BlockKind[], others: readonly BlockKind[]): Reading {
  const known: ReturnType<typeof tablesOf>[] = [];
  const once = (table: HuffmanTable, other: HuffmanTable, isDc: boolean) => {
    const before = known.find((made) => made.table === table && made.other === other);
    if (before) return before;
    const made = tablesOf(table, other, isDc);
    known.push(made);
    return made;
  };
  const dc = blocks.map((block, index) => once(block.dc, others[index].dc, true));
  const ac = blocks.map((block, index) => once(block.ac, others[index].ac, false));
  return {
    components: blocks.map(({ component }) => component),
    dc: dc.map(({ one }) => one),
    ac: ac.map(({ one }) => one),
    recoded: { dc: dc.map(({ recoded }) => recoded), ac: ac.map(({ recoded }) => recoded) },
    several: ac.map(({ several }) => several),
    growth: Math.max(...known.map(({ growth }) => growth)),
  };
}

function tablesOf(table: HuffmanTable, other: HuffmanTable, isDc: boolean) {
  const one = new Int32Array(1 << LONGEST_CODE);
  const recoded = new Int32Array(one.length);
  const others = new Map((codesOf(other) ?? []).map((code) => [code.symbol, code]));
  let growth = 1;
  for (const { symbol, bits, length } of codesOf(table) ?? []) {
    const spare = LONGEST_CODE - length;
    const [from, to] = [bits << spare, (bits + 1) << spare];
    const same = others.get(symbol);
    if (!same) continue;
    one.fill(isDc ? dcEntry(symbol, length) : acEntry(symbol, length), from, to);
    recoded.fill((same.bits << RECODED_AT) | same.length, from, to);
    growth = Math.max(growth, same.length / length);
  }
  const several = isDc ? new Int32Array() : severalOf(one, recoded);
  return { table, other, growth, one, recoded, several };
}

function dcEntry(symbol: number, length: number): number {
  return symbol < 16 ? length | (symbol << VALUE_BITS_AT) : 0;
}

function acEntry(symbol: number, length: number): number {
  if (symbol === END_OF_BLOCK) return length | IS_LAST;
  const bits = symbol & 0x0f;
  if (bits === 0 && symbol !== SIXTEEN_ZEROS) return 0;
  return (length + bits) | (((symbol >> 4) + 1) << STEP_AT) | (bits << VALUE_BITS_AT);
}

function severalOf(one: LookUp, recoded: Recoding): LookUp & Recoding {
  const several = new Int32Array(2 << LOOKED_UP);
  for (let looked = 0; looked < 1 << LOOKED_UP; looked++) {
    let [bits, step, last, made, length] = [0, 0, 0, 0, 0];
    while (last === 0) {
      const rest = (looked << bits) & ((1 << LOOKED_UP) - 1);
      const next = rest << (LONGEST_CODE - LOOKED_UP);
      const entry = one[next];
      const count = entry & BITS;
      const valueBits = entry >> VALUE_BITS_AT;
      const codeBits = recoded[next] & BITS;
      const isFull = bits + count > LOOKED_UP || length + codeBits + valueBits > 32 - RECODED_AT;
      if (entry === 0 || isFull) break;
      const value = (rest >> (LOOKED_UP - count)) & ((1 << valueBits) - 1);
      made = (((made << codeBits) | (recoded[next] >> RECODED_AT)) << valueBits) | value;
      length += codeBits + valueBits;
      bits += count;
      step += (entry >> STEP_AT) & BITS;
      last = entry & IS_LAST;
    }
    several[2 * looked] = bits | (step << STEP_AT) | last;
    several[2 * looked + 1] = (made << RECODED_AT) | length;
  }
  return several;
}
