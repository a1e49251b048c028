import type { WordToken } from '#core/lettering/words';

/** What words of a photo are called where one is chosen. */
export const TOKEN_WORDS: Readonly<Record<WordToken, string>> = Object.freeze({
  year: 'Year of the photo',
  date: 'Day of the photo',
  time: 'Time of the photo',
  name: 'Name of its file',
  number: 'Number in the run',
  batch: 'Name of the batch',
  camera: 'Camera',
  lens: 'Lens',
  place: 'Place, as noted',
  caption: 'Caption, as noted',
  artist: 'Artist, as noted',
});
