import { BitWriter } from '../../jpeg/entropy/bits.ts';
import type { BlockReader } from '../../jpeg/entropy/blockReader.ts';
import { COEFFICIENTS, MOST_BITS } from '../../jpeg/entropy/codeEntries.ts';
import type { BlockKind } from '../../jpeg/entropy/entropyScan.ts';
import {
  codesOf,
  END_OF_BLOCK,
  LONGEST_CODE,
  SIXTEEN_ZEROS,
} from '../../jpeg/entropy/huffmanTable.ts';
import type { HuffmanTable } from '../../jpeg/entropy/huffmanTable.ts';

/** By symbol: its code, and above that how many bits it has; 0: the table has none for it. */
type CodeTable = Int32Array;

const LENGTH_AT = LONGEST_CODE;
const CODE = (1 << LONGEST_CODE) - 1;

function codeTable(table: HuffmanTable): CodeTable {
  const codes = new Int32Array(256);
  for (const { symbol, bits, length } of codesOf(table) ?? []) {
    codes[symbol] = bits | (length << LENGTH_AT);
  }
  return codes;
}

/** How the blocks of a unit are written, in order. */
export type Writing = readonly {
  readonly component: number;
  readonly dc: CodeTable;
  readonly ac: CodeTable;
}[];

export function writingOf(blocks: readonly BlockKind[]): Writing {
  const known = new Map<HuffmanTable, CodeTable>();
  const once = (table: HuffmanTable): CodeTable => {
    const codes = known.get(table) ?? codeTable(table);
    known.set(table, codes);
    return codes;
  };
  return blocks.map(({ component, dc, ac }) => ({ component, dc: once(dc), ac: once(ac) }));
}

/** Writes units by the tables of a file. */
export class BlockWriter {
  /** The first coefficients of the last blocks, by component. */
  private readonly firsts = new Int32Array(4);
  private readonly unit: Int16Array;
  private readonly bits: BitWriter;

  /** @param words of bits that there will be, about */
  constructor(
    private readonly writing: Writing,
    words = 0,
  ) {
    this.unit = new Int16Array(writing.length * COEFFICIENTS);
    this.bits = new BitWriter(words);
  }

  /** Units as they are. @param firsts of their last blocks, by component */
  copy(words: Int32Array, from: number, to: number, firsts: Int32Array): void {
    this.bits.copy(words, from, to);
    this.firsts.set(firsts);
  }

  /**
   * @param reader that recodes to the same tables
   * @returns false where its next units cannot be read or written
   */
  take(reader: BlockReader, units: number): boolean {
    // The first is told as a difference to the last one here, all others as they were.
    if (!reader.read(this.unit) || !this.write(this.unit)) return false;
    return this.recode(reader, units - 1);
  }

  /**
   * The same, where what comes before them here is what came before them there.
   *
   * @returns false where they cannot be read
   */
  recode(reader: BlockReader, units: number): boolean {
    if (!reader.recode(units, this.bits)) return false;
    this.firsts.set(reader.firsts);
    return true;
  }

  /**
   * @param unit coefficients, block after block, each in the order of the file
   * @returns false where the tables have no code for it
   */
  write(unit: Int16Array): boolean {
    this.bits.reserve(unit.length * MOST_BITS);
    for (const [block, { component, dc, ac }] of this.writing.entries()) {
      const at = block * COEFFICIENTS;
      const difference = unit[at] - this.firsts[component];
      this.firsts[component] = unit[at];
      if (!this.put(dc, 0, difference)) return false;
      if (!this.putOthers(ac, unit, at)) return false;
    }
    return true;
  }

  private putOthers(codes: CodeTable, unit: Int16Array, at: number): boolean {
    let zeros = 0;
    for (let k = 1; k < COEFFICIENTS; k++) {
      const value = unit[at + k];
      if (value === 0) {
        zeros++;
        continue;
      }
      for (; zeros > 15; zeros -= 16) if (!this.put(codes, SIXTEEN_ZEROS, 0)) return false;
      if (!this.put(codes, zeros << 4, value)) return false;
      zeros = 0;
    }
    return zeros === 0 || this.put(codes, END_OF_BLOCK, 0);
  }

  /** @param kind what its symbol says beside the bits of the value */
  private put(codes: CodeTable, kind: number, value: number): boolean {
    const bits = 32 - Math.clz32(Math.abs(value));
    const code = codes[kind | bits];
    if (code === 0 || bits > 15) return false;
    this.bits.put(code & CODE, code >> LENGTH_AT);
    // Of a negative value, one less, so that it begins with 0.
    if (bits > 0) this.bits.put((value < 0 ? value - 1 : value) & ((1 << bits) - 1), bits);
    return true;
  }

  /** All that was written, as it stands in a file. */
  bytes(): Buffer {
    return this.bits.bytes();
  }
}
