import { IS_LAST, RECODED_AT, STEP_AT, VALUE_BITS_AT } from './codeEntries.ts';
import type { BlockKind } from './entropyScan.ts';
import { codesOf, END_OF_BLOCK, LONGEST_CODE, SIXTEEN_ZEROS } from './huffmanTable.ts';
import type { HuffmanTable } from './huffmanTable.ts';
import { manyCodesOf, startsOf, type ManyCodes, type Starts } from './manyCodes.ts';

/** By the 16 bits that come next, what they mean (see `codeEntries.ts`). */
type LookUp = Int32Array;

/** What stands for the same by other tables: so many bits, and above that number the bits themselves. */
type Recoding = Int32Array;

/** The codes of a table. */
export interface Codes {
  /** Those of first coefficients are told without their values, all others with them. */
  readonly one: LookUp;
  /** Of codes, without values. */
  readonly recoded: Recoding;
  /** No code becomes longer by more than this factor. */
  readonly growth: number;
}

/** The codes of the blocks of a unit, in order. */
export interface UnitCodes {
  readonly dc: readonly Codes[];
  readonly ac: readonly Codes[];
}

/** How the blocks of a unit are read, in order. */
export interface Reading {
  readonly components: readonly number[];
  readonly dc: readonly LookUp[];
  readonly ac: readonly LookUp[];
  readonly recoded: { readonly dc: readonly Recoding[]; readonly ac: readonly Recoding[] };
  /** All codes that lie in fewer bits whole, with their values. */
  readonly starts: readonly ManyCodes[];
  readonly differences: readonly Int16Array[];
  readonly many: readonly ManyCodes[];
  /** No code becomes longer by more than this factor. */
  readonly growth: number;
}

/**
 * @param blocks of a unit
 * @param others the tables that they are to be written by
 */
export function readingOf(blocks: readonly BlockKind[], others: readonly BlockKind[]): Reading {
  const { dc, ac } = unitCodes(blocks, others);
  const starts: Starts[] = [];
  const many: ManyCodes[] = [];
  blocks.forEach((_, block) => {
    // The blocks of both colours are mostly read by the same tables.
    const same = ac.findIndex((one, at) => one === ac[block] && dc[at] === dc[block]);
    starts.push(starts[same] ?? startsOf(dc[block], ac[block]));
    many.push(many[same] ?? manyCodesOf(ac[block]));
  });
  return {
    components: blocks.map(({ component }) => component),
    dc: dc.map(({ one }) => one),
    ac: ac.map(({ one }) => one),
    recoded: { dc: dc.map(({ recoded }) => recoded), ac: ac.map(({ recoded }) => recoded) },
    starts: starts.map(({ codes }) => codes),
    differences: starts.map(({ differences }) => differences),
    many,
    growth: Math.max(...[...dc, ...ac].map(({ growth }) => growth)),
  };
}

/** Each made once for all blocks that have it. */
export function unitCodes(blocks: readonly BlockKind[], others: readonly BlockKind[]): UnitCodes {
  const known: { table: HuffmanTable; other: HuffmanTable; codes: Codes }[] = [];
  const once = (table: HuffmanTable, other: HuffmanTable, isDc: boolean): Codes => {
    const before = known.find((made) => made.table === table && made.other === other);
    if (before) return before.codes;
    const codes = codesBy(table, other, isDc);
    known.push({ table, other, codes });
    return codes;
  };
  return {
    dc: blocks.map((block, index) => once(block.dc, others[index].dc, true)),
    ac: blocks.map((block, index) => once(block.ac, others[index].ac, false)),
  };
}

function codesBy(table: HuffmanTable, other: HuffmanTable, isDc: boolean): Codes {
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
  return { one, recoded, growth };
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
