import type { MarkShapeView, MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import type { PhotoWords } from '#core/lettering/words';
import type { Rescue } from '#core/readability/choice';
import { useMarkShapes, wordsOf } from './markShapes.ts';

/** Widths in which the server draws marks for the page: few, so that a wall shares one picture. */
const WIDTHS_PX = [96, 192, 384, 768, 1536, 3072] as const;

/**
 * Address of a picture of the mark whose ink box is at least `widthPx` device pixels wide; what is
 * drawn beyond the ink box reaches as far as the mark's bleed says.
 */
export function markPicture(
  mark: MarkView,
  tone: ToneChoice,
  widthPx: number,
  words: PhotoWords | null = null,
): string {
  const width = pictureWidth(widthPx);
  const query = new URLSearchParams({
    version: String(mark.version),
    tone: tone.replace('#', ''),
    width: String(width),
    ...wordsQuery(mark, words),
  });
  return `/api/marks/${mark.id}/raster?${query}`;
}

/** Address of a picture of what helps the mark, as wide as the mark's own picture would be. */
export function rescuePicture(
  mark: MarkView,
  { kind, colour }: Pick<Rescue, 'kind' | 'colour'>,
  widthPx: number,
  words: PhotoWords | null = null,
): string {
  const width = pictureWidth(widthPx);
  const query = new URLSearchParams({
    ...{ version: String(mark.version), kind, colour: colour.replace('#', '') },
    ...{ width: String(width), ...wordsQuery(mark, words) },
  });
  return `/api/marks/${mark.id}/rescue?${query}`;
}

/** Marks without words of the photo have one picture for all; without a photo an example stands in. */
function wordsQuery(mark: MarkView, words: PhotoWords | null): { words?: string } {
  if (mark.tokens.length === 0 || !words) return {};
  return { words: JSON.stringify(wordsOf(mark, words)) };
}

function pictureWidth(widthPx: number): number {
  return WIDTHS_PX.find((some) => some >= widthPx) ?? WIDTHS_PX[WIDTHS_PX.length - 1];
}

export function thisYear(): number {
  return new Date().getFullYear();
}

/** The shape a mark has on a photo: words of the photo are as wide as they are. */
export function markShape(mark: MarkView, words: PhotoWords | null): MarkShapeView {
  return mark.tokens.length === 0 ? mark : useMarkShapes().of(mark, words);
}

/** Width by height of a mark's ink box. */
export function aspectOf(mark: MarkView, words: PhotoWords | null = null): number {
  const { ink } = markShape(mark, words);
  return ink.width / ink.height;
}
