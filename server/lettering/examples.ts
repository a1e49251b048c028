import { exampleWords } from '#core/lettering/photoWords';
import type { PhotoWords } from '#core/lettering/words';

/** What marks say where they are shown without a photo. */
export function exampleWordsNow(): PhotoWords {
  return exampleWords(new Date().getFullYear());
}
