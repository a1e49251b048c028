import type { Box } from '#core/placement/geometry';
import { giveRoomBack } from '../../jpeg/sampleRoom.ts';
import { blockOf, jpegFacts, type JpegFacts } from '../../jpeg/jpegFacts.ts';
import type { JpegParts } from '../untouchedSegments.ts';
import { bitsOf, BitWriter } from '../../jpeg/entropy/bits.ts';
import { BlockReader } from '../../jpeg/entropy/blockReader.ts';
import { COEFFICIENTS } from '../../jpeg/entropy/codeEntries.ts';
import { BlockWriter, writingOf, type Writing } from './blockWriter.ts';
import { cutJpeg, END_OF_IMAGE } from './cutJpeg.ts';
import {
  entropyScan,
  type BlockKind,
  type EntropyScan,
  type Stretch,
} from '../../jpeg/entropy/entropyScan.ts';
import { readingOf, type Reading } from '../../jpeg/entropy/reading.ts';
import { wholeTables } from './wholeTables.ts';

export interface CutsWish {
  /** Whole coded units, but for what the edges cut off, that do not overlap; px. */
  readonly cuts: readonly Box[];
  /** A cut as it is to be: a JPEG of the same tables of steps and sampling. */
  readonly remade: (cut: Buffer, index: number) => Buffer;
}

/**
 * Puts other blocks into a JPEG of the kind that cameras write. All others stay in it bit by bit, moved along;
 * to know where they lie, their codes are read over, but not what they stand for. The new ones are written
 * with the file's own Huffman tables; where those lack codes, all codes become those of tables that do not.
 *
 * @returns null where the file is of another kind or not whole
 * @throws what `remade` throws
 */
export function splicedBlocks(jpeg: Buffer, facts: JpegFacts, wish: CutsWish): JpegParts | null {
  const scan = entropyScan(jpeg, facts);
  const whole = scan && wholeTables(jpeg, scan);
  if (!whole) return null;
  const writing = writingOf(whole.blocks);
  const splice: Splice = {
    ...{ jpeg, writing, reading: readingOf(scan.blocks, whole.blocks) },
    cutWriters: wish.cuts.map(() => new BlockWriter(writing)),
  };
  const spans = spansOf(wish.cuts, facts, scan);
  const works: Work[] = [];
  let next = 0;
  for (const stretch of scan.stretches) {
    const [first, end] = stretch.units;
    while (next < spans.length && spans[next].to <= first) next++;
    let after = next;
    while (after < spans.length && spans[after].from < end) after++;
    const within = spans.slice(next, after);
    // Where nothing changes in it, it need not be read.
    if (within.length === 0 && !whole.isMoved) continue;
    const work = workOf(splice, stretch, within);
    if (!work) return null;
    works.push(work);
  }
  const readers: BlockReader[] = [];
  for (const [index, cut] of wish.cuts.entries()) {
    const cutOut = cutJpeg(whole.head, cut, splice.cutWriters[index].bytes());
    const reader = readerOf(wish.remade(cutOut, index), whole.blocks, unitsOf(cut, facts));
    if (!reader) return null;
    readers.push(reader);
  }
  const picture: Uint8Array[] = [];
  let end = scan.stretches[0].bytes[0];
  for (const { bytes, writer, pieces, recoded } of works) {
    for (const piece of pieces) {
      if ('cut' in piece) {
        if (!writer.take(readers[piece.cut], piece.units)) return null;
      } else {
        if (!writer.write(piece.first)) return null;
        writer.copy(recoded.words, piece.from, piece.to, piece.firsts);
      }
    }
    recoded.giveBack();
    picture.push(jpeg.subarray(end, bytes[0]), writer.bytes());
    end = bytes[1];
  }
  picture.push(
    jpeg.subarray(end, scan.stretches[scan.stretches.length - 1].bytes[1]),
    END_OF_IMAGE,
  );
  return { head: whole.head, picture };
}

/** What it takes to splice a file. */
interface Splice {
  readonly jpeg: Buffer;
  readonly reading: Reading;
  readonly writing: Writing;
  /** Are given what lies in the cuts. */
  readonly cutWriters: readonly BlockWriter[];
}

/** Units of a row of a cut, in the order of the file. */
interface Span {
  readonly cut: number;
  readonly from: number;
  readonly to: number;
}

/** What a stretch is put together of, in order. */
type Piece = KeptPiece | NewPiece;

interface NewPiece {
  readonly cut: number;
  readonly units: number;
}

interface KeptPiece {
  /** Its first unit, which is told anew as a difference to what is new before it. */
  readonly first: Int16Array;
  /** Places of the bits of all others, among the recoded ones. */
  readonly from: number;
  readonly to: number;
  /** First coefficients of its last blocks, by component. */
  readonly firsts: Int32Array;
}

/** A stretch that changes. */
interface Work {
  readonly bytes: Stretch['bytes'];
  /** Has what stands before the first new piece: mostly nearly all. */
  readonly writer: BlockWriter;
  /** From that one on. */
  readonly pieces: readonly Piece[];
  readonly recoded: BitWriter;
}

function unitsOf({ x, y, width, height }: Box, facts: JpegFacts): Box {
  const block = blockOf(facts);
  return {
    ...{ x: x / block.width, y: y / block.height },
    ...{ width: Math.ceil(width / block.width), height: Math.ceil(height / block.height) },
  };
}

function spansOf(cuts: readonly Box[], facts: JpegFacts, { units }: EntropyScan): Span[] {
  const spans = cuts.flatMap((cut, index) => {
    const { x, y, width, height } = unitsOf(cut, facts);
    return Array.from({ length: height }, (_, row) => {
      const from = (y + row) * units.width + x;
      return { cut: index, from, to: from + width };
    });
  });
  return spans.sort((a, b) => a.from - b.from);
}

/** @returns null where what is there cannot be read */
function workOf(
  { jpeg, reading, writing, cutWriters }: Splice,
  { units: [first, end], bytes }: Stretch,
  spans: readonly Span[],
): Work | null {
  const bits = bitsOf(jpeg, ...bytes);
  if (!bits) return null;
  const reader = new BlockReader(bits, reading);
  const writer = new BlockWriter(writing, reading.growth * bits.words.length);
  const recoded = new BitWriter(0);
  const pieces: Piece[] = [];
  let unit = first;
  const keepTo = (next: number): boolean => {
    if (next === unit) return true;
    const units = next - unit;
    unit = next;
    if (pieces.length === 0) return writer.recode(reader, units);
    const told = new Int16Array(reading.components.length * COEFFICIENTS);
    if (!reader.read(told)) return false;
    const from = recoded.at;
    if (!reader.recode(units - 1, recoded)) return false;
    pieces.push({ first: told, from, to: recoded.at, firsts: reader.firsts.slice() });
    return true;
  };
  for (const span of spans) {
    const to = Math.min(end, span.to);
    if (!keepTo(Math.max(first, span.from))) return null;
    if (!cutWriters[span.cut].take(reader, to - unit)) return null;
    pieces.push({ cut: span.cut, units: to - unit });
    unit = to;
  }
  if (!keepTo(end) || !reader.isAtEnd) return null;
  giveRoomBack(bits.words);
  return { bytes, writer, pieces, recoded };
}

/**
 * Of a cut that was made anew.
 *
 * @param blocks of the file, and their tables
 * @param units where it lies
 * @returns null where it is not made alike
 */
function readerOf(cut: Buffer, blocks: readonly BlockKind[], units: Box): BlockReader | null {
  const facts = jpegFacts(cut);
  const scan = facts && entropyScan(cut, facts);
  if (!scan || scan.stretches.length !== 1) return null;
  const isAlike =
    scan.units.width === units.width &&
    scan.units.height === units.height &&
    scan.blocks.length === blocks.length &&
    scan.blocks.every(({ component }, index) => component === blocks[index].component);
  const bits = isAlike ? bitsOf(cut, ...scan.stretches[0].bytes) : null;
  return bits && new BlockReader(bits, readingOf(scan.blocks, blocks));
}
