import type { FileType } from '../contract/delivery.ts';
import type { Depth } from '../pixels.ts';

/** What a type of file can hold. */
export interface TypeFacts {
  /** Of its name, without the dot. */
  readonly ending: string;
  /** Keeps a photo's transparency; for the others it is laid on white. */
  readonly hasAlpha: boolean;
  /** Bits a sample, at most. */
  readonly depth: Depth;
}

export const TYPE_FACTS: Readonly<Record<FileType, TypeFacts>> = Object.freeze({
  jpeg: { ending: 'jpg', hasAlpha: false, depth: 8 },
  png: { ending: 'png', hasAlpha: true, depth: 16 },
  webp: { ending: 'webp', hasAlpha: true, depth: 8 },
  avif: { ending: 'avif', hasAlpha: true, depth: 8 },
  tiff: { ending: 'tif', hasAlpha: true, depth: 16 },
});
