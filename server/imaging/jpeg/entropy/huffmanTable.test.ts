import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  AC_TABLE,
  codesOf,
  huffmanSegment,
  huffmanTables,
  wholeTable,
  type HuffmanTable,
} from './huffmanTable.ts';
import { readingOf } from './reading.ts';

/** With codes of such lengths, for the symbols 0, 1, 2 and so on, or those given. */
function tableOf(lengths: readonly number[], symbols?: readonly number[]): HuffmanTable {
  const sorted = [...lengths].sort((a, b) => a - b);
  const counts = new Uint8Array(16);
  for (const length of sorted) counts[length - 1]++;
  return { counts, symbols: Uint8Array.from(symbols ?? sorted.keys()) };
}

/** Share of all codes that a table takes. */
const taken = (table: HuffmanTable): number =>
  (codesOf(table) ?? []).reduce((sum, { length }) => sum + 2 ** -length, 0);

/** As encoders make them for a file: all codes are taken but the one of nothing but ones. */
const fullTables = fc
  .array(fc.nat(), { minLength: 1, maxLength: 150 })
  .map((places) => {
    const lengths = [1, 1];
    for (const place of places) {
      const index = place % lengths.length;
      if (lengths[index] < 16) lengths.push(++lengths[index]);
    }
    return lengths.sort((a, b) => a - b).slice(0, -1);
  })
  .filter((lengths) => lengths.length > 0);

describe('a table of codes with all that may be needed', () => {
  it('has a code for each symbol, and none longer by more than a bit', () => {
    fc.assert(
      fc.property(fullTables, (lengths) => {
        const symbols = lengths.map((_, index) => ((index % 16) << 4) | (1 + (index >> 4)));
        const own = tableOf(lengths, symbols);
        const whole = wholeTable(AC_TABLE, own);
        if (!whole) throw new Error('expected room');
        const codes = new Map(codesOf(whole.table)?.map((code) => [code.symbol, code]));
        expect(codes.size).toBe(162);
        expect(taken(whole.table)).toBeLessThan(1);
        let longer = 0;
        for (const { symbol, bits, length } of codesOf(own) ?? []) {
          const now = codes.get(symbol);
          longer += (now?.length ?? 99) - length;
          if (!whole.isMoved) expect(now).toEqual({ symbol, bits, length });
        }
        expect(longer).toBe(whole.isMoved ? 1 : 0);
        for (const { bits, length } of codes.values()) expect(bits).toBeLessThan(2 ** length - 1);
      }),
    );
  });

  it('stays the same where nothing is missing', () => {
    const own = tableOf(Array.from({ length: 12 }, (_, index) => index + 2));
    expect(wholeTable(0, own)).toEqual({ table: own, isMoved: false });
  });

  it('keeps its codes where there is room beside them', () => {
    const own = tableOf([2, 2, 3]);
    const whole = wholeTable(0, own);
    expect(whole?.isMoved).toBe(false);
    expect(codesOf(whole?.table ?? own)?.slice(0, 3)).toEqual(codesOf(own));
    expect(whole?.table.symbols.length).toBe(12);
  });

  it('cannot be one that has more codes than there are', () => {
    expect(codesOf(tableOf([1, 1, 1]))).toBeNull();
    expect(wholeTable(0, tableOf([1, 1, 1]))).toBeNull();
  });

  it('is read as it is written, and not at all where it ends too early', () => {
    const tables = new Map([
      [0, tableOf([1, 2])],
      [AC_TABLE | 1, tableOf([3, 3, 3], [5, 0xf0, 0])],
    ]);
    const segment = huffmanSegment(tables);
    const read = huffmanTables(segment);
    expect(read && huffmanSegment(read).equals(segment)).toBe(true);
    expect(huffmanTables(segment.subarray(0, segment.length - 1))).toBeNull();
    expect(huffmanTables(segment.subarray(0, 9))).toBeNull();
  });
});

it('blocks that share a table may be moved to different ones', () => {
  const own = tableOf([1, 2, 3]);
  const other = tableOf([2, 2, 2]);
  const block = { component: 0, dc: own, ac: own };
  const { recoded } = readingOf([block, block], [block, { component: 1, dc: other, ac: other }]);
  expect(recoded.dc[0][0]).not.toBe(recoded.dc[1][0]);
  expect(recoded.ac[0][0]).not.toBe(recoded.ac[1][0]);
});
