import type { MarkBox } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { Box } from '#core/placement/geometry';

/** What is known of one version of a mark's artwork. */
export interface ArtworkRow {
  readonly kind: 'svg' | 'png';
  readonly natural: Box;
  readonly ink: Box;
  readonly notes: readonly string[];
  readonly origin: MarkOrigin;
  readonly box: MarkBox | null;
  readonly hasPixels: boolean;
  /** Still being lifted: there are no files of it yet, and its boxes are a guess. */
  readonly isPending: boolean;
}

/** A mark with its present artwork. */
export interface MarkRow extends ArtworkRow {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly retired: boolean;
  readonly createdAt: string;
}

/** A version before the present one. */
export interface EarlierArtwork {
  readonly version: number;
  readonly madeAt: string | null;
  readonly ink: Box;
  readonly natural: Box;
}
