import { LRUCache } from 'lru-cache';
import { bleedOf, type Bleed, type RasterSpec } from '#core/compose/rasterPlan';
import type { Design, Parts } from '#core/contract/design';
import type { ToneChoice } from '#core/contract/preset';
import type { Rgb } from '#core/colour/hex';
import { naturalBoxes } from '#core/design/markToSvg';
import { designTokens } from '#core/design/designTokens';
import { wordsKey, type PhotoWords, type WordToken } from '#core/lettering/words';
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

/** Layers, with what they are made of. The boxes are those it has with the words of an example. */
export interface DesignArtwork {
  readonly kind: 'design';
  readonly natural: Box;
  readonly ink: Box;
  readonly design: Design;
  readonly parts: Parts;
  /** Where its fonts are looked for. */
  readonly fontFolders: readonly string[];
}

/** How a mark is drawn for one photo: designs draw their own tones and may hold words of the photo. */
export interface Showing {
  readonly tone: ToneChoice;
  readonly words: PhotoWords;
  /** Without any finish: what counts as ink where readability is measured. */
  readonly isBare?: boolean;
}

/** The shape a mark has on a photo: lettering with other words in it is another width. */
export interface MarkShape {
  readonly ink: Box;
  readonly natural: Box;
  readonly aspect: number;
  readonly bleed: Bleed;
  /** It says words of the photo and nothing else, and the photo has none: there is nothing to draw. */
  readonly isEmpty: boolean;
}

export function shapeOf(artwork: Artwork, words: PhotoWords): MarkShape {
  const { ink, natural, isEmpty = false } = boxesIn(artwork, words);
  const aspect = ink.width / ink.height;
  // Plain artwork is drawn within its ink box, which was measured with all that is soft in it.
  const bleed = artwork.kind === 'design' ? bleedOf(ink, natural) : { x: 0, y: 0 };
  return { ink, natural, aspect, bleed, isEmpty };
}

type Boxes = Pick<MarkShape, 'ink' | 'natural'> & Partial<Pick<MarkShape, 'isEmpty'>>;

/** Boxes that were measured, by artwork and words: a photo's are asked for many times in a row. */
const boxes = new WeakMap<DesignArtwork, LRUCache<string, Boxes>>();
const BOXES_KEPT = 2_000;

function boxesIn(artwork: Artwork, words: PhotoWords): Boxes {
  const key = wordsOn(artwork, words);
  if (artwork.kind !== 'design' || key === '') return artwork;
  let known = boxes.get(artwork);
  if (!known) boxes.set(artwork, (known = new LRUCache({ max: BOXES_KEPT })));
  let measured = known.get(key);
  if (!measured) {
    const drawn = naturalBoxes(artwork.design, contextOf(artwork, words));
    const { ink, natural } = drawn ?? artwork;
    measured = { ink, natural, isEmpty: drawn === null };
    known.set(key, measured);
  }
  return measured;
}

/** The words of the photo that a mark holds. */
export function tokensOn(artwork: Artwork): readonly WordToken[] {
  return artwork.kind === 'design' ? designTokens(artwork.design) : [];
}

/** What of a photo's words is drawn, as a text that tells photos with others apart; empty where none is. */
export function wordsOn(artwork: Artwork, words: PhotoWords): string {
  return wordsKey(tokensOn(artwork), words);
}

export function contextOf({ parts, fontFolders }: DesignArtwork, words: PhotoWords) {
  return drawContext(parts, fontFolders, words);
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
