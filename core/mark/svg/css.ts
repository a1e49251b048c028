import { tokenize, tokenTypes as kinds } from 'css-tree';
import { failure, success, type Result } from '../../result.ts';

/**
 * CSS in artwork is read by its tokens (CSS Syntax, section 4): in time linear in its length, whatever
 * it holds, and with strings, comments and escapes understood as renderers understand them.
 */

interface Token {
  readonly kind: number;
  readonly start: number;
  readonly end: number;
}

/** Rules that load something or only speak of other renderers; they are dropped whole. */
const DROPPED_RULES: ReadonlySet<string> = new Set([
  ...['@font-face', '@page', '@counter-style', '@import', '@charset', '@namespace'],
]);
const KEPT_RULES: ReadonlySet<string> = new Set(['@media']);
const ACTIVE = ['expression(', 'javascript:', '-moz-binding', 'behavior:'] as const;
const FILTER = /^(?:-\w+-)?(?:backdrop-)?filter$/i;

/** The text without what loads something, or why it cannot be kept. */
export function safeCss(css: string): Result<string> {
  const text = withoutDropped(css);
  // Escapes can spell any word in a way the other tests would not see.
  if (text.includes('\\')) return failure('its styles hold escaped characters');
  const plain = text.toLowerCase().replaceAll(/\s/g, '');
  if (ACTIVE.some((word) => plain.includes(word))) {
    return failure('its styles hold something that could run');
  }
  const tokens = tokensOf(text);
  const problem = problemIn(text, tokens);
  return problem === null ? success(text) : failure(problem);
}

function problemIn(text: string, tokens: readonly Token[]): string | null {
  let isInFilter = false;
  for (let at = 0; at < tokens.length; at++) {
    const { kind, start, end } = tokens[at];
    const word = (): string => text.slice(start, end);
    if (kind === kinds.AtKeyword && !KEPT_RULES.has(word().toLowerCase())) {
      return 'its styles hold a rule that is not understood';
    }
    if (kind === kinds.BadUrl) return 'its styles hold a broken url()';
    const target = urlAt(text, tokens, at);
    if (target !== null && !isLocalReference(target)) return outsideReference(target);
    if (kind === kinds.Semicolon || kind === kinds.RightCurlyBracket) isInFilter = false;
    if (kind === kinds.Ident && FILTER.test(word()) && isFollowedByColon(tokens, at)) {
      isInFilter = true;
    } else if (isInFilter && kind === kinds.Function && target === null) {
      return 'its styles hold a filter written as a function; use a filter element instead';
    }
  }
  return null;
}

/** What the `url()` that begins at a token refers to, or null where none begins. */
function urlAt(text: string, tokens: readonly Token[], at: number): string | null {
  const { kind, start, end } = tokens[at];
  if (kind === kinds.Url) {
    const written = text.slice(start, end);
    return written.slice(written.indexOf('(') + 1).replace(/\)$/, '');
  }
  if (kind !== kinds.Function || text.slice(start, end).toLowerCase() !== 'url(') return null;
  const argument = tokens.slice(at + 1, at + 3).find((token) => token.kind !== kinds.WhiteSpace);
  if (argument?.kind !== kinds.String) return '';
  return text.slice(argument.start, argument.end).replace(/^["']|["']$/g, '');
}

function isFollowedByColon(tokens: readonly Token[], at: number): boolean {
  const next = tokens[at + 1]?.kind === kinds.WhiteSpace ? tokens[at + 2] : tokens[at + 1];
  return next?.kind === kinds.Colon;
}

/** Without comments and the rules that are dropped. */
function withoutDropped(css: string): string {
  const tokens = tokensOf(css);
  const kept: string[] = [];
  for (let at = 0; at < tokens.length; at++) {
    const { kind, start, end } = tokens[at];
    const word = css.slice(start, end);
    if (kind === kinds.AtKeyword && DROPPED_RULES.has(word.toLowerCase())) {
      at = endOfRule(tokens, at);
    } else if (kind !== kinds.Comment) kept.push(word);
  }
  return kept.join('');
}

/** The last token of the rule that begins at one: its semicolon, or the end of its block. */
function endOfRule(tokens: readonly Token[], from: number): number {
  let depth = 0;
  for (let at = from; at < tokens.length; at++) {
    const { kind } = tokens[at];
    if (kind === kinds.Semicolon && depth === 0) return at;
    if (kind === kinds.LeftCurlyBracket) depth++;
    if (kind === kinds.RightCurlyBracket && --depth <= 0) return at;
  }
  return tokens.length;
}

/**
 * Changes all selectors of a style sheet. Rules that begin with `@` are left as they are, what is
 * inside of them is not.
 *
 * @param change is given each selector of a list by itself
 */
export function withSelectors(css: string, change: (selector: string) => string): string {
  const parts: string[] = [];
  let done = 0;
  for (const { start, end, selectors } of preludesOf(css)) {
    parts.push(css.slice(done, start), selectors.map(change).join(','));
    done = end;
  }
  return parts.join('') + css.slice(done);
}

export function selectorsOf(css: string): string[] {
  return preludesOf(css).flatMap(({ selectors }) => selectors);
}

/** A selector with the ids in it changed. */
export function withIds(selector: string, change: (id: string) => string): string {
  return tokensOf(selector)
    .map(({ kind, start, end }) => {
      const word = selector.slice(start, end);
      return kind === kinds.Hash ? `#${change(word.slice(1))}` : word;
    })
    .join('');
}

interface Prelude {
  readonly start: number;
  readonly end: number;
  readonly selectors: readonly string[];
}

/** What stands before each block, but for rules that begin with `@`. */
function preludesOf(css: string): Prelude[] {
  const preludes: Prelude[] = [];
  let start = 0;
  let cuts: number[] = [];
  let depth = 0;
  let isRule = false;
  for (const token of tokensOf(css)) {
    const { kind } = token;
    if (kind === kinds.AtKeyword) isRule = true;
    if (OPENING.has(kind)) depth++;
    if (CLOSING.has(kind)) depth--;
    if (kind === kinds.Comma && depth === 0) cuts.push(token.start);
    if (kind === kinds.LeftCurlyBracket && !isRule) {
      const ends = [...cuts, token.start];
      const selectors = ends.map((end, index) =>
        css.slice(index === 0 ? start : ends[index - 1] + 1, end).trim(),
      );
      preludes.push({ start, end: token.start, selectors });
    }
    if (BOUNDARIES.has(kind)) {
      start = token.end;
      cuts = [];
      depth = 0;
      isRule = false;
    }
  }
  return preludes;
}

const OPENING = new Set([kinds.Function, kinds.LeftParenthesis, kinds.LeftSquareBracket]);
const CLOSING = new Set([kinds.RightParenthesis, kinds.RightSquareBracket]);
const BOUNDARIES = new Set([kinds.LeftCurlyBracket, kinds.RightCurlyBracket, kinds.Semicolon]);

function tokensOf(css: string): Token[] {
  const tokens: Token[] = [];
  tokenize(css, (kind, start, end) => tokens.push({ kind, start, end }));
  return tokens;
}

export function isLocalReference(target: string): boolean {
  return /^#[^\s]+$/.test(target.trim());
}

export function outsideReference(target: string): string {
  const shown = target.trim().slice(0, 80);
  return `it refers to something outside the file ("${shown}"); embed it or remove it`;
}
