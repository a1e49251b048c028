/** Huffman tables of a JPEG (ITU T.81, annexes B.2.4.2 and C). */
export interface HuffmanTable {
  /** How many codes there are of 1 to 16 bits. */
  readonly counts: Uint8Array;
  /** What they stand for, the shortest first. */
  readonly symbols: Uint8Array;
}

export interface Code {
  readonly symbol: number;
  readonly bits: number;
  readonly length: number;
}

/** Bits of the longest code. */
export const LONGEST_CODE = 16;
/** In the byte that names a table: it is for coefficients other than the first. */
export const AC_TABLE = 0x10;
/** Symbols of those: no more of them, and sixteen zeros. */
export const END_OF_BLOCK = 0x00;
export const SIXTEEN_ZEROS = 0xf0;

/** Bits of the largest values in files of 8 bits a sample (T.81, tables F.1 and F.2). */
const MOST_DC_BITS = 11;
const MOST_AC_BITS = 10;

const DC_SYMBOLS: readonly number[] = Array.from({ length: MOST_DC_BITS + 1 }, (_, bits) => bits);
const AC_SYMBOLS: readonly number[] = [
  ...[END_OF_BLOCK, SIXTEEN_ZEROS],
  // After 0 to 15 zeros, a value of so many bits.
  ...Array.from({ length: 16 * MOST_AC_BITS }, (_, index) => {
    return (Math.floor(index / MOST_AC_BITS) << 4) | ((index % MOST_AC_BITS) + 1);
  }),
];

/** Those of a segment, by the byte that names them. @returns null where it ends too early */
export function huffmanTables(payload: Uint8Array): Map<number, HuffmanTable> | null {
  const tables = new Map<number, HuffmanTable>();
  let at = 0;
  while (at < payload.length) {
    const counts = payload.subarray(at + 1, at + 1 + LONGEST_CODE);
    const from = at + 1 + LONGEST_CODE;
    const end = from + counts.reduce((sum, count) => sum + count, 0);
    if (end > payload.length) return null;
    tables.set(payload[at], { counts, symbols: payload.subarray(from, end) });
    at = end;
  }
  return tables;
}

/** What `huffmanTables` reads. */
export function huffmanSegment(tables: ReadonlyMap<number, HuffmanTable>): Buffer {
  return Buffer.concat(
    [...tables].flatMap(([name, { counts, symbols }]) => [Buffer.of(name), counts, symbols]),
  );
}

/** @returns null where there are more codes than there is room for */
export function codesOf({ counts, symbols }: HuffmanTable): Code[] | null {
  const codes: Code[] = [];
  let bits = 0;
  for (let length = 1; length <= LONGEST_CODE; length++) {
    for (let count = counts[length - 1]; count > 0; count--) {
      if (bits >= 1 << length) return null;
      codes.push({ symbol: symbols[codes.length], bits: bits++, length });
    }
    bits <<= 1;
  }
  return codes;
}

export interface WholeTable {
  readonly table: HuffmanTable;
  /** Codes are others than before. */
  readonly isMoved: boolean;
}

/**
 * A table with codes for all that a file of its kind may hold: one that was made for a file has only what that
 * holds. What is new gets the longest codes; where there is no room for them, one of the shorter codes that
 * make enough of it becomes a bit longer.
 *
 * @param name the byte that names it
 * @returns null where no room can be made
 */
export function wholeTable(name: number, own: HuffmanTable): WholeTable | null {
  const codes = codesOf(own);
  if (!codes) return null;
  const known = new Set(own.symbols);
  const wanted = name & AC_TABLE ? AC_SYMBOLS : DC_SYMBOLS;
  const missing = wanted.filter((symbol) => !known.has(symbol));
  if (missing.length === 0) return { table: own, isMoved: false };
  // In codes of the longest kind. The one of nothing but ones stands for nothing (T.81, annex C).
  const roomOf = (length: number): number => 1 << (LONGEST_CODE - length);
  const taken = codes.reduce((sum, { length }) => sum + roomOf(length), 0);
  const lacking = missing.length - (roomOf(0) - 1 - taken);
  const lengths = codes.map(({ symbol, length }) => ({ symbol, length }));
  if (lacking > 0) {
    const longer = lengths.findLast(({ length }) => roomOf(length + 1) >= lacking);
    if (!longer) return null;
    longer.length++;
  }
  for (const symbol of missing) lengths.push({ symbol, length: LONGEST_CODE });
  // Stable: those of a length stay in order.
  lengths.sort((a, b) => a.length - b.length);
  const counts = new Uint8Array(LONGEST_CODE);
  for (const { length } of lengths) counts[length - 1]++;
  const symbols = Uint8Array.from(lengths, ({ symbol }) => symbol);
  return { table: { counts, symbols }, isMoved: lacking > 0 };
}
