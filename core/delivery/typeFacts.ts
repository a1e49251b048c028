import type { FileType } from '../contract/delivery.ts';
import type { Depth } from '../pixels.ts';

/** What a type of file can hold. */
export interface TypeFacts {
  /** Of its name, without the dot. */
  readonly ending: string;
  /** Keeps a photo's transparency; for the others it is laid on white. */
  readonly hasAlpha: boolean;
  /** Its encoder loses nothing. */
  readonly isLossless: boolean;
  /** Bits a sample, at most. */
  readonly depth: Depth;
}

export const TYPE_FACTS: Readonly<Record<FileType, TypeFacts>> = Object.freeze({
  jpeg: { ending: 'jpg', isLossless: false, hasAlpha: false, depth: 8 },
  png: { ending: 'png', isLossless: true, hasAlpha: true, depth: 16 },
  webp: { ending: 'webp', isLossless: false, hasAlpha: true, depth: 8 },
  avif: { ending: 'avif', isLossless: false, hasAlpha: true, depth: 8 },
  tiff: { ending: 'tif', isLossless: true, hasAlpha: true, depth: 16 },
});
