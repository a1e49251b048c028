import type { ToneChoice } from '#core/contract/preset';
import type { Rgb } from '#core/colour/hex';
import { finishOf } from '#core/design/measure';
import { markToSvg } from '#core/design/markToSvg';
import type { PhotoWords } from '#core/lettering/words';
import { toneColour } from '#core/mark/tone';
import type { Box } from '#core/placement/geometry';
import { contextOf, type Artwork } from '../raster/artwork.ts';

/** A mark that can be printed sharp at any size. */
export interface MarkOutlines {
  readonly svg: string;
  /** What the SVG shows, and the ink box in it; units of the drawing. */
  readonly natural: Box;
  readonly ink: Box;
  /** That all of it is printed in; null: as it is drawn. */
  readonly colour: Rgb | null;
}

/** What is more than outlines filled with colour: pixels, softness, and what a printer may show otherwise. */
const SOFT =
  /<(?:image|filter|mask|pattern|style|text|foreignObject|symbol)\b|mix-blend-mode|vector-effect/i;

/** A mark as outlines, or null where it is not made of them alone. */
export function markOutlines(
  artwork: Artwork,
  tone: ToneChoice,
  words: PhotoWords,
): MarkOutlines | null {
  if (artwork.kind === 'png') return null;
  if (artwork.kind === 'svg') {
    const { svg, natural, ink } = artwork;
    return SOFT.test(svg) ? null : { svg, natural, ink, colour: toneColour(tone) };
  }
  if (finishOf(artwork.design.finishes, 'crispness')) return null;
  const drawn = markToSvg(artwork.design, tone, contextOf(artwork, words));
  if (!drawn.ok || SOFT.test(drawn.value.svg)) return null;
  const { svg, natural, ink } = drawn.value;
  return { svg, natural, ink, colour: null };
}
