import { bleedOf, type Bleed, type RasterSpec } from '#core/compose/rasterPlan';
import type { Design, Parts } from '#core/contract/design';
import type { ToneChoice } from '#core/contract/preset';
import type { Rgb } from '#core/colour/hex';
import { naturalBoxes } from '#core/design/markToSvg';
import { designFollowsYear } from '#core/design/year';
import type { Box } from '#core/placement/geometry';
import { drawContext } from '../../lettering/fontBook.ts';

/** Artwork of a mark, ready to be drawn: `natural` is the area it shows, `ink` its ink box. */
export type Artwork = PlainArtwork | DesignArtwork;

export type PlainArtwork = {
  readonly natural: Box;
  readonly ink: Box;
} & (
  | { readonly kind: 'svg'; readonly svg: string }
  | { readonly kind: 'png'; readonly png: Uint8Array }
);

/** Layers, with what they are made of. The boxes are those of the year it was made in. */
export interface DesignArtwork {
  readonly kind: 'design';
  readonly natural: Box;
  readonly ink: Box;
  readonly design: Design;
  readonly parts: Parts;
  /** Where its fonts are looked for. */
  readonly fontFolders: readonly string[];
}

/** How a mark is drawn for one photo: designs draw their own tones and may hold the photo's year. */
export interface Showing {
  readonly tone: ToneChoice;
  readonly year: number;
  /** Without any finish: what counts as ink where readability is measured. */
  readonly isBare?: boolean;
}

/** The shape a mark has in a year: words with another year in them are another width. */
export interface MarkShape {
  readonly ink: Box;
  readonly natural: Box;
  readonly aspect: number;
  readonly bleed: Bleed;
}

export function shapeOf(artwork: Artwork, year: number): MarkShape {
  const { ink, natural } = boxesIn(artwork, year);
  const aspect = ink.width / ink.height;
  // Plain artwork is drawn within its ink box, which was measured with all that is soft in it.
  const bleed = artwork.kind === 'design' ? bleedOf(ink, natural) : { x: 0, y: 0 };
  return { ink, natural, aspect, bleed };
}

function boxesIn(artwork: Artwork, year: number): Pick<MarkShape, 'ink' | 'natural'> {
  if (artwork.kind !== 'design' || !followsYear(artwork)) return artwork;
  return naturalBoxes(artwork.design, contextOf(artwork, year)) ?? artwork;
}

export function followsYear(artwork: Artwork): boolean {
  return artwork.kind === 'design' && designFollowsYear(artwork.design);
}

export function contextOf({ parts, fontFolders }: DesignArtwork, year: number) {
  return drawContext(parts, fontFolders, year);
}

/** What the drawing process is asked. */
export type RasterRequest =
  | {
      readonly do: 'draw';
      readonly artwork: Artwork;
      readonly spec: RasterSpec;
      /** For a design; plain artwork is drawn in its own colours. */
      readonly showing: Showing | null;
    }
  | { readonly do: 'decode'; readonly bytes: Uint8Array }
  | {
      readonly do: 'unbox';
      readonly bytes: Uint8Array;
      readonly colour: Rgb;
      readonly from: 'outside' | 'everywhere';
    }
  /** The silhouette of artwork as a path, in its own units. */
  | { readonly do: 'trace'; readonly artwork: PlainArtwork };

/** RGBA, not premultiplied; for `trace` a path. */
export type RasterAnswer =
  | {
      readonly ok: true;
      readonly data: Uint8Array;
      readonly width: number;
      readonly height: number;
    }
  | { readonly ok: true; readonly path: string }
  /** The reason is part of a sentence, unless it is told to be one. */
  | { readonly ok: false; readonly reason: string; readonly isSentence?: boolean };
