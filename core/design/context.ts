import type { FontChoice, Part } from '../contract/design.ts';
import type { Face } from '../lettering/face.ts';

/** What a design needs besides itself to be drawn. */
export interface DrawContext {
  /** The face nearest to a choice, or null where the family is not at hand. */
  readonly face: (choice: FontChoice) => Face | null;
  readonly part: (key: string) => Part | null;
  /** The year of the photo it is drawn for. */
  readonly year: number;
}
