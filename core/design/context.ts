import type { FontChoice, Part } from '../contract/design.ts';
import type { Face } from '../lettering/face.ts';
import type { PhotoWords } from '../lettering/words.ts';

/** What a design needs besides itself to be drawn. */
export interface DrawContext {
  /** The face nearest to a choice, or null where the family is not at hand. */
  readonly face: (choice: FontChoice) => Face | null;
  readonly part: (key: string) => Part | null;
  /** Of the photo it is drawn for. */
  readonly words: PhotoWords;
}
