import { designTokens } from '#core/design/designTokens';
import { photoWords } from '#core/lettering/photoWords';
import type { PhotoWords, WordToken } from '#core/lettering/words';
import type { ArtworkRow } from './db/markRows.ts';
import type { PhotoRow } from './db/photos.ts';
import type { Tables } from './db/tables.ts';
import { yearOf } from './imaging/photo/probe.ts';
import { exampleWordsNow } from './lettering/examples.ts';

/** The words of the photo that a mark takes. */
export function tokensOfMark({ origin }: Pick<ArtworkRow, 'origin'>): readonly WordToken[] {
  return origin.kind === 'design' ? designTokens(origin.design) : [];
}

/** Words that the page names in the order of a mark's tokens; the rest are those of an example. */
export function namedWords(
  row: Pick<ArtworkRow, 'origin'>,
  named: readonly string[] | undefined,
): PhotoWords {
  const words = tokensOfMark(row).map((token, at) => [token, named?.[at] ?? '']);
  return named ? { ...exampleWordsNow(), ...Object.fromEntries(words) } : exampleWordsNow();
}

/** Words of a photo of the library. @param number its position in the run */
export function wordsOfPhoto(photo: PhotoRow, number: number, { batches }: Tables): PhotoWords {
  const { year } = yearOf(photo.capturedAt, photo.modifiedMs);
  const batch = batches.get(photo.batchId)?.name ?? '';
  return photoWords({ ...photo, year }, { number, batch });
}
