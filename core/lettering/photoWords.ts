import type { PhotoWords, WordToken } from './words.ts';

/** What is known of a photo that lettering can say; null: nothing. */
export interface PhotoFacts {
  /** Of its file. */
  readonly name: string;
  /** Local time of the camera, `YYYY-MM-DDTHH:MM:SS`. */
  readonly capturedAt: string | null;
  /** Of the capture, else of the file. */
  readonly year: number;
  readonly camera: string | null;
  readonly lens: string | null;
  readonly place: string | null;
  readonly caption: string | null;
  readonly artist: string | null;
}

/** What only the batch or the run of a photo knows. */
export interface InRun {
  /** Position, from 1. */
  readonly number: number;
  readonly batch: string;
}

const DATE_LENGTH = 'YYYY-MM-DD'.length;
const TIME_LENGTH = 'HH:MM'.length;

export function photoWords(facts: PhotoFacts, { number, batch }: InRun): PhotoWords {
  const { capturedAt, camera, lens, place, caption, artist } = facts;
  return {
    year: String(facts.year),
    date: capturedAt?.slice(0, DATE_LENGTH) ?? '',
    time: capturedAt?.slice(DATE_LENGTH + 1, DATE_LENGTH + 1 + TIME_LENGTH) ?? '',
    name: facts.name.replace(/\.[^.]+$/, ''),
    ...{ number: String(number), batch },
    ...{ camera: camera ?? '', lens: lens ?? '', place: place ?? '', caption: caption ?? '' },
    artist: artist ?? '',
  };
}

const DATED: ReadonlySet<WordToken> = new Set(['year', 'date', 'time'] as const);

/** The words that a photo has nothing to say for; the year of one without a date is that of its file. */
export function lackedWords(tokens: readonly WordToken[], facts: PhotoFacts): WordToken[] {
  const words = photoWords(facts, { number: 1, batch: 'any' });
  return tokens.filter((token) =>
    DATED.has(token) ? facts.capturedAt === null : words[token] === '',
  );
}

/** Stands in where a mark is shown without a photo. @param year this one */
export function exampleWords(year: number): PhotoWords {
  return {
    ...{
      year: String(year),
      date: `${year}-05-14`,
      time: '05:42',
      name: 'NC26_0043',
      number: '43',
    },
    ...{ batch: 'Breakwater mornings', camera: 'Camera', lens: '35 mm', place: 'Quillon Bay' },
    ...{ caption: 'First light', artist: 'Ines Marlow' },
  };
}
