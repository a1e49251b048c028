import type { Size } from '#core/placement/geometry';

/** What the headers of a JPEG say (ITU T.81, annex B), as far as parts of it can be encoded alike. */
export interface JpegFacts {
  /** As it is stored, px. */
  readonly size: Size;
  readonly process: 'sequential' | 'progressive' | 'arithmetic' | 'other';
  readonly bitsPerSample: number;
  readonly components: readonly JpegComponent[];
  /** By number: 64 steps in the order of rows, as encoders are given them. */
  readonly tables: ReadonlyMap<number, readonly number[]>;
  /** Blocks after which readers can start again; 0: none. */
  readonly restartBlocks: number;
  /** What lies before the picture: APPn and comments, in order. */
  readonly segments: readonly JpegSegment[];
}

type FrameFacts = Omit<JpegFacts, 'tables' | 'restartBlocks' | 'segments'>;

export interface JpegComponent {
  readonly id: number;
  /** Samples of a block of the file, in blocks of 8. */
  readonly across: number;
  readonly down: number;
  readonly table: number;
}

export interface JpegSegment {
  readonly marker: number;
  readonly payload: Buffer;
}

const START_OF_IMAGE = 0xd8;
const END_OF_IMAGE = 0xd9;
const FIRST_RESTART = 0xd0;
const LAST_RESTART = 0xd7;
const RESTARTS = 0xdd;
const START_OF_SCAN = 0xda;
const TABLES = 0xdb;
const COMMENT = 0xfe;
const FIRST_APP = 0xe0;
const LAST_APP = 0xef;
const FIRST_FRAME = 0xc0;
const LAST_FRAME = 0xcf;
/** Huffman tables, an extension, arithmetic conditioning: in the range of frames, but none. */
const NO_FRAMES: ReadonlySet<number> = new Set([0xc4, 0xc8, 0xcc]);

/** The places of the coefficients in the order in which a file names them (T.81, figure A.6). */
const ZIGZAG = Object.freeze([
  ...[0, 1, 8, 16, 9, 2, 3, 10, 17, 24, 32, 25, 18, 11, 4, 5, 12, 19, 26, 33, 40, 48],
  ...[41, 34, 27, 20, 13, 6, 7, 14, 21, 28, 35, 42, 49, 56, 57, 50, 43, 36, 29, 22],
  ...[15, 23, 30, 37, 44, 51, 58, 59, 52, 45, 38, 31, 39, 46, 53, 60, 61, 54, 47, 55, 62, 63],
]);

/** @returns null where it is no JPEG, or its headers end before they say what is needed */
export function jpegFacts(jpeg: Buffer): JpegFacts | null {
  if (jpeg[0] !== 0xff || jpeg[1] !== START_OF_IMAGE) return null;
  const tables = new Map<number, readonly number[]>();
  const segments: JpegSegment[] = [];
  let restartBlocks = 0;
  let frame: FrameFacts | null = null;
  for (const { marker, payload } of headers(jpeg)) {
    if (marker === TABLES) readTables(payload, tables);
    else if (marker === RESTARTS && payload.length >= 2) restartBlocks = payload.readUInt16BE(0);
    else if (isMetadata(marker)) {
      segments.push({ marker, payload });
    } else if (marker >= FIRST_FRAME && marker <= LAST_FRAME && !NO_FRAMES.has(marker)) {
      frame = frameOf(marker, payload);
    }
  }
  return frame && { ...frame, tables, restartBlocks, segments };
}

export function isMetadata(marker: number): boolean {
  return marker === COMMENT || (marker >= FIRST_APP && marker <= LAST_APP);
}

/** Segments up to the first scan. */
export function* headers(jpeg: Buffer): Generator<JpegSegment & { readonly end: number }> {
  let at = 2;
  while (at + 4 <= jpeg.length && jpeg[at] === 0xff) {
    const marker = jpeg[at + 1];
    // Any number of these bytes may stand before a marker.
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (marker === START_OF_SCAN) return;
    const end = at + 2 + jpeg.readUInt16BE(at + 2);
    if (end > jpeg.length) return;
    yield { marker, payload: jpeg.subarray(at + 4, end), end };
    at = end;
  }
}

/** Where the picture ends, that begins with a scan at `at`; at the end of the file, where it says no end. */
export function endOfImage(jpeg: Buffer, at: number): number {
  while (at + 2 <= jpeg.length) {
    const marker = jpeg[at + 1];
    if (marker === END_OF_IMAGE) return at + 2;
    // Within a scan, this byte is followed by 0, or by the number of a restart.
    const isData = marker === 0 || (marker >= FIRST_RESTART && marker <= LAST_RESTART);
    const isFill = marker === 0xff;
    const bytes = isFill
      ? 1
      : isData
        ? 2
        : at + 4 <= jpeg.length
          ? 2 + jpeg.readUInt16BE(at + 2)
          : 2;
    const next = jpeg.indexOf(0xff, at + bytes);
    if (next < 0) break;
    at = next;
  }
  return jpeg.length;
}

function readTables(payload: Buffer, tables: Map<number, readonly number[]>): void {
  let at = 0;
  while (at < payload.length) {
    const bytes = payload[at] >> 4 === 0 ? 1 : 2;
    const number = payload[at] & 0x0f;
    if (at + 1 + 64 * bytes > payload.length) return;
    const steps = new Array<number>(64);
    ZIGZAG.forEach((place, index) => {
      steps[place] = payload.readUIntBE(at + 1 + index * bytes, bytes);
    });
    tables.set(number, steps);
    at += 1 + 64 * bytes;
  }
}

const PROCESSES: ReadonlyMap<number, JpegFacts['process']> = new Map([
  [0xc0, 'sequential'],
  [0xc1, 'sequential'],
  [0xc2, 'progressive'],
  [0xc9, 'arithmetic'],
  [0xca, 'arithmetic'],
]);

function frameOf(marker: number, payload: Buffer): FrameFacts | null {
  if (payload.length < 6 || payload.length < 6 + 3 * payload[5]) return null;
  const count = payload[5];
  return {
    process: PROCESSES.get(marker) ?? 'other',
    bitsPerSample: payload[0],
    size: { width: payload.readUInt16BE(3), height: payload.readUInt16BE(1) },
    components: Array.from({ length: count }, (_, index) => {
      const at = 6 + 3 * index;
      const [id, sampling, table] = payload.subarray(at, at + 3);
      return { id, across: sampling >> 4, down: sampling & 0x0f, table };
    }),
  };
}

/** What is encoded as one block, px. */
export function blockOf({ components }: JpegFacts): Size {
  const most = (side: 'across' | 'down') => Math.max(...components.map((some) => some[side]));
  // The samples of a single component are in blocks of 8, whatever its factors say.
  if (components.length === 1) return { width: 8, height: 8 };
  return { width: 8 * most('across'), height: 8 * most('down') };
}

/** Red, green and blue, not brightness and two colour differences: said by Adobe's segment, or by the ids. */
export function isRgb({ components, segments }: JpegFacts): boolean {
  if (components.length !== 3) return false;
  const isJfif = segments.some(({ marker, payload }) => {
    return marker === FIRST_APP && payload.toString('latin1', 0, 5) === 'JFIF\0';
  });
  if (isJfif) return false;
  const told = segments.find(({ marker, payload }) => {
    return marker === 0xee && payload.toString('latin1', 0, 5) === 'Adobe' && payload.length >= 12;
  });
  if (told) return told.payload[11] === 0;
  return String.fromCharCode(...components.map(({ id }) => id)) === 'RGB';
}

/** Why no part of it can be encoded alike, as the rest of a sentence; or null. */
export function otherProblem({
  process,
  bitsPerSample,
  components,
  tables,
}: JpegFacts): string | null {
  if (process === 'arithmetic') return 'it is coded arithmetically';
  if (process === 'other') return 'it is of a lossless or hierarchical kind';
  if (bitsPerSample !== 8) return `it has ${bitsPerSample} bits a sample`;
  if (components.length === 4) return 'its colours are CMYK';
  if (components.length !== 1 && components.length !== 3) {
    return `it has ${components.length} components`;
  }
  const isWhole = components.every(
    ({ table, across, down }) => tables.has(table) && across && down,
  );
  return isWhole ? null : 'its tables of steps are not whole';
}
