import { failure, success, type Result } from '../result.ts';

/** Output names from a pattern such as `{name}-web` (contract, section 5). */

export interface NameValues {
  /** The photo's file name without its extension. */
  readonly name: string;
  /** Position in the run, from 1. */
  readonly number: number;
  /** Capture date as YYYY-MM-DD, empty if unknown. */
  readonly date: string;
  readonly batch: string;
  readonly preset: string;
  readonly delivery: string;
  readonly width: number;
  readonly height: number;
}

export const NAME_TOKENS = [
  'name',
  'number',
  'date',
  'batch',
  'preset',
  'delivery',
  'width',
  'height',
] as const;
type NameToken = (typeof NAME_TOKENS)[number];

type Part = { text: string } | { token: NameToken; digits: number };

/** `{number:4}` is padded to four digits; more than this many would be a slip. */
const MAX_DIGITS = 9;

/** Most file systems take 255 bytes a name; some room is left for a number and the extension. */
const MAX_NAME_BYTES = 220;

/** What FAT, NTFS, APFS or a shell-unfriendly ext4 name may not hold. */
const FORBIDDEN = /[\p{Cc}<>:"/\\|?*]/gu;
const RESERVED = /^(con|prn|aux|nul|com[1-9]|lpt[1-9])(\.|$)/i;

/** What is wrong with a pattern, as the end of "expected …", or null. */
export function namePatternProblem(pattern: string): string | null {
  const parsed = parsePattern(pattern);
  return parsed.ok ? null : parsed.reason;
}

/** Whether a pattern tells the photos of a run apart; where it does not, all but the first get a number. */
export function tellsPhotosApart(pattern: string): boolean {
  const parsed = parsePattern(pattern);
  if (!parsed.ok) return true;
  return parsed.value.some((part) => 'token' in part && ['name', 'number'].includes(part.token));
}

/** The file name without extension; the pattern must have been validated. */
export function outputName(pattern: string, values: NameValues): string {
  const parsed = parsePattern(pattern);
  if (!parsed.ok) throw new Error(`Expected a valid name pattern, found "${pattern}"`);
  const text = parsed.value
    .map((part) => ('text' in part ? part.text : fill(part, values)))
    .join('');
  return safeName(text) || safeName(values.name) || 'photo';
}

/** A name that common file systems take: forbidden characters become `_`, ends are trimmed. */
export function safeName(text: string): string {
  const replaced = text
    .normalize('NFC')
    .replace(FORBIDDEN, '_')
    .trim()
    .replace(/[. ]+$/, '');
  const named = RESERVED.test(replaced) ? `_${replaced}` : replaced;
  return cutToBytes(named, MAX_NAME_BYTES).replace(/[. ]+$/, '');
}

function parsePattern(pattern: string): Result<Part[]> {
  if (pattern.trim() === '') return failure('a name pattern such as {name}-web');
  if (/[/\\]/.test(pattern)) return failure('a name pattern without a path separator');
  const parts: Part[] = [];
  for (const piece of pattern.split(/(\{[^{}]*\})/).filter(Boolean)) {
    if (!piece.startsWith('{') || !piece.endsWith('}')) {
      if (/[{}]/.test(piece)) return failure('a name pattern with each { closed by a }');
      parts.push({ text: piece });
      continue;
    }
    const token = parseToken(piece.slice(1, -1));
    if (!token.ok) return token;
    parts.push(token.value);
  }
  return success(parts);
}

function parseToken(inside: string): Result<Part> {
  const [token, digits, ...rest] = inside.split(':');
  const known = NAME_TOKENS.find((name) => name === token);
  if (!known || rest.length > 0) {
    const list = NAME_TOKENS.map((name) => `{${name}}`).join(', ');
    return failure(`a name pattern with the tokens ${list}, not {${inside}}`);
  }
  if (digits === undefined) return success({ token: known, digits: 0 });
  if (known !== 'number' || !/^[1-9]$/.test(digits) || Number(digits) > MAX_DIGITS) {
    return failure(
      `a name pattern in which only {number} takes digits, as {number:4}, not {${inside}}`,
    );
  }
  return success({ token: known, digits: Number(digits) });
}

function fill(part: { token: NameToken; digits: number }, values: NameValues): string {
  const value = String(values[part.token]);
  return part.token === 'number' ? value.padStart(part.digits, '0') : value;
}

/** UTF-8 length without an encoder: the core knows neither Buffer nor TextEncoder. */
function utf8Length(character: string): number {
  const code = character.codePointAt(0) ?? 0;
  if (code < 0x80) return 1;
  if (code < 0x800) return 2;
  return code < 0x10000 ? 3 : 4;
}

function cutToBytes(text: string, limit: number): string {
  let bytes = 0;
  let kept = '';
  for (const character of text) {
    bytes += utf8Length(character);
    if (bytes > limit) break;
    kept += character;
  }
  return kept;
}
