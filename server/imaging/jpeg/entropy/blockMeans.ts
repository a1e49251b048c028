import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { isRgb, jpegFacts, otherProblem, type JpegFacts } from '../jpegFacts.ts';
import { giveRoomBack } from '../sampleRoom.ts';
import { bitsOf } from './bits.ts';
import { entropyScan, type EntropyScan } from './entropyScan.ts';
import { MeanReader, meanReadingOf, type MeanReading } from './meanReader.ts';

/** Blocks of 8 × 8 px in rows, of which some are wanted. */
export interface WantedBlocks {
  /** Of how many each way it is one, beginning with the first of the picture. */
  readonly step: number;
  /** How many that is. */
  readonly wanted: Size;
  /**
   * The bytes are known to be those that the encoder made. Then what lies between restarts and holds none of the
   * blocks is passed over; else all codes are read, to the last.
   */
  readonly isAsEncoded?: boolean;
}

/**
 * The means of blocks of a JPEG, for which its codes are read but nothing else is made of them: half the time of
 * a decoder that makes the picture eight times smaller, or a fifth where only some rows need be read.
 *
 * @returns what such a decoder makes of each, to a level; null where the file is not of the kind that we write
 *   (Huffman coded in one scan, brightness and two colours of all pixels), or cannot be read to its end
 */
export function blockMeans(jpeg: Buffer, wish: WantedBlocks): Pixels | null {
  const { step, wanted, isAsEncoded = false } = wish;
  const facts = jpegFacts(jpeg);
  if (!facts || otherProblem(facts) !== null || !isOfAllColours(facts)) return null;
  const scan = entropyScan(jpeg, facts);
  if (!scan) return null;
  const { width, height } = scan.units;
  if ((wanted.width - 1) * step >= width || (wanted.height - 1) * step >= height) return null;
  const grid = { step, wanted, across: width };
  const firsts = new Int16Array(wanted.width * wanted.height * COMPONENTS);
  const reading = readingFor(scan);
  for (const stretch of scan.stretches) {
    const [first, end] = stretch.units;
    if (isAsEncoded && wantedFrom(first, grid) >= end) continue;
    const bits = bitsOf(jpeg, ...stretch.bytes);
    if (!bits) return null;
    const reader = new MeanReader(bits, reading);
    const isRead = readStretch(reader, stretch.units, grid, firsts);
    giveRoomBack(bits.words);
    if (!isRead || !reader.isAtEnd) return null;
  }
  return { data: coloursOf(firsts, facts), ...wanted, channels: 3 };
}

const COMPONENTS = 3;

const isOfAllColours = (facts: JpegFacts): boolean =>
  facts.components.length === COMPONENTS &&
  facts.components.every(({ across, down }) => across === 1 && down === 1) &&
  !isRgb(facts);

/** The encoder's tables are the same ones for file after file, and take longer to make than to use. */
let last: { readonly name: string; readonly reading: MeanReading } | null = null;

function readingFor({ blocks }: EntropyScan): MeanReading {
  const name = blocks.map(({ dc, ac }) => [dc, ac].map(nameOf).join()).join();
  if (last?.name !== name) last = { name, reading: meanReadingOf(blocks) };
  return last.reading;
}

const nameOf = ({ counts, symbols }: EntropyScan['blocks'][number]['dc']): string =>
  Buffer.concat([counts, symbols]).toString('latin1');

interface Grid extends Pick<WantedBlocks, 'step' | 'wanted'> {
  /** Blocks of a row. */
  readonly across: number;
}

/** @param firsts of the blocks that are wanted: their first coefficients are written there */
function readStretch(
  reader: MeanReader,
  [from, end]: readonly [number, number],
  grid: Grid,
  firsts: Int16Array,
): boolean {
  let done = from;
  for (;;) {
    const next = wantedFrom(done, grid);
    if (next >= end) return reader.pass(end - done);
    if (!reader.pass(next + 1 - done)) return false;
    const row = Math.floor(next / grid.across);
    const column = next - row * grid.across;
    const block = (row / grid.step) * grid.wanted.width + column / grid.step;
    for (let c = 0; c < COMPONENTS; c++) firsts[block * COMPONENTS + c] = reader.firsts[c];
    done = next + 1;
  }
}

/** The next block, from that one on, that is wanted; beyond the last one, where none is. */
function wantedFrom(block: number, { step, wanted, across }: Grid): number {
  const row = Math.floor(block / across);
  const column = Math.ceil((block - row * across) / step) * step;
  const isInRow = row % step === 0 && column < wanted.width * step;
  const next = isInRow ? row : (Math.floor(row / step) + 1) * step;
  if (next >= wanted.height * step) return Infinity;
  return next * across + (isInRow ? column : 0);
}

/** Samples of a block that is nothing but its mean (T.81, A.3.3), as colours (T.871, clause 7). */
function coloursOf(firsts: Int16Array, { components, tables }: JpegFacts): Uint8ClampedArray {
  const steps = components.map(({ table }) => tables.get(table)?.[0] ?? 1);
  const sample = (at: number, component: number): number => {
    const level = ((firsts[at + component] * steps[component] + 4) >> 3) + 128;
    return Math.min(255, Math.max(0, level));
  };
  const data = new Uint8ClampedArray(firsts.length);
  for (let at = 0; at < firsts.length; at += COMPONENTS) {
    const y = sample(at, 0);
    const blue = sample(at, 1) - 128;
    const red = sample(at, 2) - 128;
    data[at] = y + 1.402 * red;
    data[at + 1] = y - 0.344136 * blue - 0.714136 * red;
    data[at + 2] = y + 1.772 * blue;
  }
  return data;
}
