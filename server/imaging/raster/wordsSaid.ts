import { missingSigns } from '#core/design/missingSigns';
import type { PhotoWords } from '#core/lettering/words';
import { failure, success, type Result } from '#core/result';
import type { MarkSource } from '../compose.ts';
import { contextOf, shapeOf, tokensOn, wordsOn } from './artwork.ts';

/** Signs that are named one by one, before there are too many. */
const MOST_SIGNS = 12;

/** How marks say the words of a photo, as far as it is to be told. */
export interface WordsFacts {
  /** By mark: it says nothing else, and the photo has none. */
  readonly isEmpty: readonly boolean[];
  readonly note: string | null;
  readonly lacksLetters: boolean;
}

/** @param name of the photo */
export function wordsFacts(
  marks: readonly MarkSource[],
  words: PhotoWords,
  name: string,
): WordsFacts {
  const said = wordsSaid(marks, words, name);
  return {
    isEmpty: marks.map(({ artwork }) => shapeOf(artwork, words).isEmpty),
    note: said.ok ? said.value : said.reason,
    lacksLetters: missingOf(marks, words).length > 0,
  };
}

/**
 * What should be known of how marks say the words of a photo, as sentences; or null.
 *
 * @param name of the photo
 * @returns a failure where all of them would be empty: a photo does not go out without its mark unasked
 */
export function wordsSaid(
  marks: readonly MarkSource[],
  words: PhotoWords,
  name: string,
): Result<string | null> {
  const empty = marks.filter(({ artwork }) => shapeOf(artwork, words).isEmpty);
  const lacks = [...new Set(empty.flatMap(({ artwork }) => tokensOn(artwork)))];
  const lacked = lacks.map((token) => `{${token}}`).join(' and ');
  if (empty.length > 0 && empty.length === marks.length) {
    return failure(`${name} has nothing for ${lacked}, and its mark says nothing else.`);
  }
  const signs = missingOf(marks, words);
  const notes = [
    empty.length > 0
      ? `It has nothing for ${lacked}, so a mark of nothing else is left out.`
      : null,
    signs.length > 0 ? signsNote(signs) : null,
  ];
  return success(notes.filter((note) => note !== null).join(' ') || null);
}

function missingOf(marks: readonly MarkSource[], words: PhotoWords): string[] {
  return [...new Set(marks.flatMap(({ artwork }) => missingOn(artwork, words)))];
}

/** What was typed into a mark is told where that is done; here is told what a photo brings along. */
function missingOn(artwork: MarkSource['artwork'], words: PhotoWords): string[] {
  if (artwork.kind !== 'design' || wordsOn(artwork, words) === '') return [];
  return missingSigns(artwork.design, contextOf(artwork, words));
}

function signsNote(signs: readonly string[]): string {
  const some = signs.slice(0, MOST_SIGNS).join('');
  const more = signs.length > MOST_SIGNS ? ` and ${signs.length - MOST_SIGNS} more` : '';
  return `The font of its mark has no letters for “${some}”${more}: boxes stand for them.`;
}
