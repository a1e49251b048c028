import { headers } from '../../jpeg/jpegFacts.ts';
import { segmentBytes } from '../untouchedSegments.ts';
import type { BlockKind, EntropyScan } from '../../jpeg/entropy/entropyScan.ts';
import { huffmanSegment, wholeTable, type HuffmanTable } from '../../jpeg/entropy/huffmanTable.ts';

const TABLES = 0xc4;

export interface WholeTables {
  /** All that stands before the coefficients. */
  readonly head: Buffer;
  readonly blocks: readonly BlockKind[];
  /** Codes are others than in the file. */
  readonly isMoved: boolean;
}

/** A file's tables, with codes for all that may be put into it. @returns null where there is no room for them */
export function wholeTables(jpeg: Buffer, scan: EntropyScan): WholeTables | null {
  const wholes = new Map<HuffmanTable, HuffmanTable>();
  const named = new Map<number, HuffmanTable>();
  let isMoved = false;
  for (const [name, own] of scan.tables) {
    const whole = wholeTable(name, own);
    if (!whole) return null;
    wholes.set(own, whole.table);
    named.set(name, whole.table);
    isMoved ||= whole.isMoved;
  }
  const isOwn = [...wholes].every(([own, whole]) => own === whole);
  const start = scan.stretches[0].bytes[0];
  const of = (table: HuffmanTable): HuffmanTable => wholes.get(table) ?? table;
  return {
    head: isOwn ? jpeg.subarray(0, start) : headWith(named, jpeg, scan.headerAt, start),
    blocks: scan.blocks.map(({ component, dc, ac }) => ({ component, dc: of(dc), ac: of(ac) })),
    isMoved,
  };
}

function headWith(
  tables: ReadonlyMap<number, HuffmanTable>,
  jpeg: Buffer,
  headerAt: number,
  start: number,
): Buffer {
  const others: Buffer[] = [];
  let at = 2;
  for (const { marker, end } of headers(jpeg)) {
    if (marker !== TABLES) others.push(jpeg.subarray(at, end));
    at = end;
  }
  const segment = segmentBytes({ marker: TABLES, payload: huffmanSegment(tables) });
  return Buffer.concat([jpeg.subarray(0, 2), ...others, segment, jpeg.subarray(headerAt, start)]);
}
