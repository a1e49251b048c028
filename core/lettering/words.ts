import type { Lettering } from '../contract/design.ts';

/** Words of a photo, which lettering can hold as tokens such as `{year}` (contract, section 5). */
export const WORD_TOKENS = [
  'year',
  'date',
  'time',
  'name',
  'number',
  'batch',
  'camera',
  'lens',
  'place',
  'caption',
  'artist',
] as const;
export type WordToken = (typeof WORD_TOKENS)[number];

/** By token; empty where a photo has nothing to say. */
export type PhotoWords = Readonly<Record<WordToken, string>>;

/** `{number:4}` is padded to four digits; more than this many would be a slip. */
const TOKEN = new RegExp(`\\{(${WORD_TOKENS.join('|')})(?::([1-9]))?\\}`, 'g');
/** Stands for a token that has nothing to say. */
const EMPTY = '\u0000';
/** What stands between words, with the room round it. */
const BETWEEN = '[\\s·•|/,;:–—-]*';
const EMPTY_BRACKETS = new RegExp(`[([]\\s*${EMPTY}\\s*[)\\]]`, 'g');
const AT_START = new RegExp(`^(?:${BETWEEN}${EMPTY})+${BETWEEN}`);
const AT_END = new RegExp(`(?:${BETWEEN}${EMPTY})+${BETWEEN}$`);
const WITHIN = new RegExp(`(${BETWEEN})${EMPTY}(?:${BETWEEN}${EMPTY})*${BETWEEN}`, 'g');

/** The tokens that a text holds, in their own order. */
export function tokensOf({ text }: Pick<Lettering, 'text'>): WordToken[] {
  const found = new Set([...text.matchAll(TOKEN)].map(([, token]) => token));
  return WORD_TOKENS.filter((token) => found.has(token));
}

/** A text without its tokens: what is left is drawn on every photo. */
export function withoutTokens(text: string): string {
  return text.replace(TOKEN, '');
}

/** The lines that are set: the photo's words filled in, the case as wished. */
export function linesOf({ text, letterCase }: Lettering, words: PhotoWords): string[] {
  const filled = filledText(text, words);
  const cased =
    letterCase === 'capitals'
      ? filled.toUpperCase()
      : letterCase === 'small'
        ? filled.toLowerCase()
        : filled;
  return cased.split('\n');
}

/** What a photo lacks takes what separates it along; a line of nothing else is left out. */
export function filledText(text: string, words: PhotoWords): string {
  const lines = text.split('\n').flatMap((line) => {
    const filled = line.replace(TOKEN, (_, token: WordToken, digits: string | undefined) => {
      const word = oneLine(words[token]);
      if (word === '') return EMPTY;
      return digits && token === 'number' ? word.padStart(Number(digits), '0') : word;
    });
    if (!filled.includes(EMPTY)) return [filled];
    const tidy = filled
      .replace(EMPTY_BRACKETS, EMPTY)
      .replace(AT_START, '')
      .replace(AT_END, '')
      .replace(WITHIN, '$1');
    return tidy === '' ? [] : [tidy];
  });
  return lines.join('\n');
}

/** A caption of several lines is one of many words here; what cannot be seen is left out. */
function oneLine(word: string): string {
  return word.replace(/[\s\p{Cc}]+/gu, ' ').trim();
}

/** The words that tokens take of a photo, as a text that tells photos with others apart. */
export function wordsKey(tokens: readonly WordToken[], words: PhotoWords): string {
  return tokens.length === 0 ? '' : JSON.stringify(tokens.map((token) => words[token]));
}
