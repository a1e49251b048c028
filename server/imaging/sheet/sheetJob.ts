import type { DeliveryRule } from '#core/contract/delivery';
import type { PhotoWords } from '#core/lettering/words';
import type { Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import type { WantedMark } from '../pass/renderJob.ts';

/** Photos that were made ready, and the sheets that are wanted of them. Plain data. */
export interface SheetJob {
  readonly rule: DeliveryRule;
  readonly title: string;
  /** In their order; one that failed keeps its place. */
  readonly photos: readonly SheetPhotoJob[];
  /** Marks in the margin, the lowest first. */
  readonly margin: readonly WantedMark[];
  /** Of a PDF one file for all sheets, else one for each. */
  readonly files: readonly SheetFile[];
}

export interface SheetFile {
  /** Place among the sheets that have photos; null: all of them. */
  readonly sheet: number | null;
  readonly temporaryPath: string;
}

export interface SheetPhotoJob {
  /** Upright size of the photo. */
  readonly size: Size;
  /** The part of it that is printed; null: it could not be made. */
  readonly path: string | null;
  /** That its marks were placed in: what is left of it when the sheet is trimmed, px. */
  readonly frame: Size;
  readonly marks: readonly SheetMark[];
  readonly caption: string;
  readonly words: PhotoWords | null;
}

export interface SheetMark {
  readonly placement: Placement;
  /** Place of its artwork among those that come with the job. */
  readonly mark: number;
}

/** A file that was written, flushed, and has no name yet. */
export interface WrittenDocument {
  readonly temporaryPath: string;
  readonly bytes: number;
}
