/** Qualities that a limit of bytes chooses from. */
export const LEAST_QUALITY = 30;
export const MOST_QUALITY = 95;
/** Quality of the first try: what most files end near. */
const FIRST_TRY = 80;
/** By how much quality doubles the bytes of a photo, roughly; it only guides the search. */
const STEPS_TO_DOUBLE = 12;
/** On a photo that is not like that, what is left is halved after so many tries. */
const GUESSES = 4;

export interface Encoded {
  readonly bytes: number;
}

/**
 * The best quality whose file has at most so many bytes, found by trying: guessed from the last try
 * and held between what was too large and what was not, so that four or five tries do.
 *
 * @returns the file, its quality, and whether it is within the limit: where none is, the smallest
 */
export async function bestQuality<File extends Encoded>(
  maxBytes: number,
  encode: (quality: number) => Promise<File>,
): Promise<{ readonly file: File; readonly quality: number; readonly fits: boolean }> {
  let best: { file: File; quality: number } | null = null;
  let [low, high] = [LEAST_QUALITY, MOST_QUALITY];
  let quality = FIRST_TRY;
  let tries = 0;
  while (low <= high) {
    const file = await encode(quality);
    if (file.bytes <= maxBytes) {
      best = { file, quality };
      low = quality + 1;
    } else {
      if (quality === LEAST_QUALITY) return { file, quality, fits: false };
      high = quality - 1;
    }
    const step = STEPS_TO_DOUBLE * Math.log2(maxBytes / file.bytes);
    const guess = ++tries < GUESSES ? Math.round(quality + step) : Math.floor((low + high) / 2);
    quality = Math.min(high, Math.max(low, guess));
  }
  if (best) return { ...best, fits: true };
  return { file: await encode(LEAST_QUALITY), quality: LEAST_QUALITY, fits: false };
}
