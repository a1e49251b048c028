import { exampleWordsNow } from '../../lettering/examples.ts';
import { photoWords, type InRun } from '#core/lettering/photoWords';
import type { PhotoWords, WordToken } from '#core/lettering/words';
import { photoFacts, type ProbedPhoto } from './probe.ts';

/** What only whoever exports a photo knows of it. */
export interface NamedInRun extends InRun {
  /** Of its file, as the photographer knows it. */
  readonly name: string;
}

/** Words of a photo for marks, read from its file where they take any of them. */
export async function fileWords(
  path: string,
  probed: Pick<ProbedPhoto, 'metadata' | 'modifiedMs'>,
  { name, ...inRun }: NamedInRun,
  tokens: readonly WordToken[],
): Promise<{ readonly words: PhotoWords; readonly yearFromFile: number | null }> {
  if (tokens.length === 0) {
    return { words: exampleWordsNow(), yearFromFile: null };
  }
  const { isYearOfFile, ...facts } = await photoFacts(path, probed);
  const isTold = tokens.includes('year') && isYearOfFile;
  return {
    words: photoWords({ ...facts, name }, inRun),
    yearFromFile: isTold ? facts.year : null,
  };
}
