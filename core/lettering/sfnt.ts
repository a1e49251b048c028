import { failure, success, type Result } from '../result.ts';

/** What a font file says of itself. */
export interface FontFacts {
  /** The family's name, or nothing where it has none. */
  readonly family: string;
  /** 1 to 1,000; 400 is regular. */
  readonly weight: number;
  readonly italic: boolean;
}

const TRUE_TYPE = 0x0001_0000;
const APPLE_TRUE_TYPE = 0x7472_7565;
const OPEN_TYPE = 0x4f54_544f;

const DIRECTORY_START = 12;
const DIRECTORY_ENTRY = 16;
/** Name ids: the typographic family counts before the one that old programs see. */
const FAMILY_NAMES = [16, 1];
const WINDOWS = 3;
const MACINTOSH = 1;
const ENGLISH_WINDOWS = 0x409;
const ITALIC_BIT = 1;
const REGULAR_WEIGHT = 400;

/**
 * Reads the names and style of a TrueType or OpenType font (OpenType 1.9: tables `name`, `OS/2`).
 * Anything else is a failure that says what was expected.
 */
export function readSfnt(bytes: Uint8Array): Result<FontFacts> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const version = view.getUint32(0);
    if (![TRUE_TYPE, APPLE_TRUE_TYPE, OPEN_TYPE].includes(version)) return failure(NO_FONT);
    const tables = tablesOf(view);
    const style = tables.get('OS/2');
    return success({
      family: familyName(tables.get('name')),
      weight: Math.min(1_000, Math.max(1, style ? style.getUint16(4) : REGULAR_WEIGHT)),
      italic: style ? (style.getUint16(62) & ITALIC_BIT) !== 0 : false,
    });
  } catch {
    // Reading beyond the end: the file was cut off or is none.
    return failure(NO_FONT);
  }
}

const NO_FONT = 'Expected a font as TTF, OTF or WOFF2, found a file that is none.';

function tablesOf(view: DataView): Map<string, DataView> {
  const count = view.getUint16(4);
  const tables = new Map<string, DataView>();
  for (let index = 0; index < count; index++) {
    const at = DIRECTORY_START + index * DIRECTORY_ENTRY;
    const tag = String.fromCharCode(...[0, 1, 2, 3].map((byte) => view.getUint8(at + byte)));
    const offset = view.getUint32(at + 8);
    const length = view.getUint32(at + 12);
    tables.set(tag, new DataView(view.buffer, view.byteOffset + offset, length));
  }
  return tables;
}

function familyName(table: DataView | undefined): string {
  if (!table) return '';
  const count = table.getUint16(2);
  const storage = table.getUint16(4);
  let found = '';
  let rank = 0;
  for (let index = 0; index < count; index++) {
    const at = 6 + index * 12;
    const platform = table.getUint16(at);
    const language = table.getUint16(at + 4);
    const id = FAMILY_NAMES.indexOf(table.getUint16(at + 6));
    if (id < 0 || (platform !== WINDOWS && platform !== MACINTOSH)) continue;
    const isWindows = platform === WINDOWS;
    const fits = isWindows ? (language === ENGLISH_WINDOWS ? 2 : 1) : 0;
    const better = 1 + fits + (id === 0 ? 3 : 0);
    if (better <= rank) continue;
    rank = better;
    found = textOf(table, storage + table.getUint16(at + 10), table.getUint16(at + 8), isWindows);
  }
  return found.trim();
}

function textOf(table: DataView, offset: number, length: number, isWide: boolean): string {
  let text = '';
  for (let at = 0; at < length; at += isWide ? 2 : 1) {
    text += String.fromCharCode(
      isWide ? table.getUint16(offset + at) : table.getUint8(offset + at),
    );
  }
  return text;
}

/** Of `fsType`: no bit of the lowest four says that it may be installed by whoever gets it. */
const USAGE_BITS = 0x000f;

/**
 * Whether a font's licence lets it be installed elsewhere (OpenType 1.9, table `OS/2`, field `fsType`). One
 * that says nothing may not.
 */
export function mayBeHandedOn(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const style = tablesOf(view).get('OS/2');
    return style !== undefined && (style.getUint16(8) & USAGE_BITS) === 0;
  } catch {
    return false;
  }
}
