import type { Box, Size } from '../placement/geometry.ts';
import type { Difference } from './cells.ts';

/** What was found when an output was opened again. */
export interface ReadBack {
  /** All of it can be decoded. */
  readonly decodes: boolean;
  /** Turned upright, px. */
  readonly frame: Size | null;
  /** How it is stored, 1 to 8; 1 is upright. */
  readonly orientation: number | null;
  /** Name of its colour profile. */
  readonly profile: string | null;
  /** Null: it was to have none. */
  readonly mark: FoundBox | null;
  /** How far it is from its photo beside the mark, levels of 0 to 255 of cells of some pixels. */
  readonly elsewhere: Difference | null;
  /** What is wrong with it, as a sentence; or null. */
  readonly problem: string | null;
}

export interface FoundBox {
  readonly found: boolean;
  /** Px of the upright frame. */
  readonly box: Box | null;
}
