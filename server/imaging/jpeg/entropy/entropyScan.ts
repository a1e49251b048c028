import type { Size } from '#core/placement/geometry';
import { blockOf, headers, type JpegFacts } from '../jpegFacts.ts';
import { AC_TABLE, huffmanTables, type HuffmanTable } from './huffmanTable.ts';

/**
 * Where the coefficients of a JPEG lie in it, of the kind that cameras write: Huffman coded, all of them in
 * one scan (ITU T.81, annexes B and F).
 */
export interface EntropyScan {
  /** Of the coded units (MCU): each holds the blocks of all components of a place. */
  readonly units: Size;
  /** The blocks of a unit, in order. */
  readonly blocks: readonly BlockKind[];
  /** By the byte that names them. */
  readonly tables: ReadonlyMap<number, HuffmanTable>;
  /** Where its own header begins, bytes of the file. */
  readonly headerAt: number;
  readonly stretches: readonly Stretch[];
}

export interface BlockKind {
  readonly component: number;
  readonly dc: HuffmanTable;
  readonly ac: HuffmanTable;
}

/** Coded units that can be read alone: all of them, or those from one restart to the next. */
export interface Stretch {
  /** Its first and the one after its last. */
  readonly units: readonly [number, number];
  /** Bytes of the file. */
  readonly bytes: readonly [number, number];
}

const MARK = 0xff;
const TABLES = 0xc4;
const START_OF_SCAN = 0xda;
const END_OF_IMAGE = 0xd9;
const FIRST_RESTART = 0xd0;
const RESTARTS = 8;
/** Of a scan that holds all coefficients with all their bits. */
const WHOLE = Object.freeze([0, 63, 0]);

/** @returns null where it is not of that kind, or not as its headers say */
export function entropyScan(jpeg: Buffer, facts: JpegFacts): EntropyScan | null {
  if (facts.process !== 'sequential' || facts.size.width === 0 || facts.size.height === 0) {
    return null;
  }
  const tables = new Map<number, HuffmanTable>();
  let at = 2;
  for (const { marker, payload, end } of headers(jpeg)) {
    at = end;
    if (marker !== TABLES) continue;
    const found = huffmanTables(payload);
    if (!found) return null;
    for (const [name, table] of found) tables.set(name, table);
  }
  while (jpeg[at] === MARK && jpeg[at + 1] === MARK) at++;
  if (jpeg[at + 1] !== START_OF_SCAN || at + 4 > jpeg.length) return null;
  const start = at + 2 + jpeg.readUInt16BE(at + 2);
  const blocks = blocksOf(jpeg.subarray(at, start), facts, tables);
  const block = blockOf(facts);
  const units = {
    width: Math.ceil(facts.size.width / block.width),
    height: Math.ceil(facts.size.height / block.height),
  };
  const count = units.width * units.height;
  const stretches = stretchesOf(jpeg, start, count, facts.restartBlocks || count);
  return blocks && stretches && { units, blocks, tables, headerAt: at, stretches };
}

/** @param header of the scan */
function blocksOf(
  header: Uint8Array,
  { components }: JpegFacts,
  tables: ReadonlyMap<number, HuffmanTable>,
): BlockKind[] | null {
  const count = components.length;
  if (header[4] !== count || header.length !== 8 + 2 * count) return null;
  if (WHOLE.some((value, index) => header[5 + 2 * count + index] !== value)) return null;
  const blocks: BlockKind[] = [];
  for (const [component, { id, across, down }] of components.entries()) {
    const [named, numbers] = header.subarray(5 + 2 * component);
    const dc = tables.get(numbers >> 4);
    const ac = tables.get(AC_TABLE | (numbers & 0x0f));
    if (named !== id || !dc || !ac) return null;
    // The blocks of a single component stand alone, whatever its factors say.
    const each = count === 1 ? 1 : across * down;
    for (let block = 0; block < each; block++) blocks.push({ component, dc, ac });
  }
  return blocks;
}

/** @param interval units from one restart to the next */
function stretchesOf(
  jpeg: Buffer,
  start: number,
  count: number,
  interval: number,
): Stretch[] | null {
  const stretches: Stretch[] = [];
  let from = start;
  for (let unit = 0; unit < count; unit += interval) {
    const to = markerAfter(jpeg, from);
    const last = Math.min(count, unit + interval);
    const number = FIRST_RESTART + (stretches.length % RESTARTS);
    if (jpeg[to + 1] !== (last === count ? END_OF_IMAGE : number)) return null;
    stretches.push({ units: [unit, last], bytes: [from, to] });
    from = to + 2;
  }
  return stretches;
}

/** Where the next marker is. Among coefficients, a byte that looks like one is followed by 0. */
function markerAfter(jpeg: Buffer, from: number): number {
  let at = jpeg.indexOf(MARK, from);
  while (at >= 0 && jpeg[at + 1] === 0) at = jpeg.indexOf(MARK, at + 2);
  return at < 0 ? jpeg.length : at;
}
