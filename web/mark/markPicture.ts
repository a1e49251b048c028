import type { MarkView, MarkYear } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import type { Rescue } from '#core/readability/choice';

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
  year = thisYear(),
): string {
  const width = pictureWidth(widthPx);
  const query = new URLSearchParams({
    version: String(mark.version),
    tone: tone.replace('#', ''),
    width: String(width),
    ...(mark.years ? { year: String(year) } : {}),
  });
  return `/api/marks/${mark.id}/raster?${query}`;
}

/** Address of a picture of what helps the mark, as wide as the mark's own picture would be. */
export function rescuePicture(
  mark: MarkView,
  { kind, colour }: Pick<Rescue, 'kind' | 'colour'>,
  widthPx: number,
  year = thisYear(),
): string {
  const width = pictureWidth(widthPx);
  const query = new URLSearchParams({
    ...{ version: String(mark.version), kind, colour: colour.replace('#', '') },
    width: String(width),
    // Marks without a year have one picture for all years.
    year: String(mark.years ? year : ANY_YEAR),
  });
  return `/api/marks/${mark.id}/rescue?${query}`;
}

const ANY_YEAR = 2_000;

function pictureWidth(widthPx: number): number {
  return WIDTHS_PX.find((some) => some >= widthPx) ?? WIDTHS_PX[WIDTHS_PX.length - 1];
}

export function thisYear(): number {
  return new Date().getFullYear();
}

/** The shape a mark has on a photo: words that follow its year are as wide as that year. */
export function markShape(mark: MarkView, photo: { readonly year?: number } | null): MarkYear {
  return mark.years?.[photo?.year ?? thisYear()] ?? mark;
}

/** Width by height of a mark's ink box. */
export function aspectOf(mark: MarkView, photo: { readonly year?: number } | null = null): number {
  const { ink } = markShape(mark, photo);
  return ink.width / ink.height;
}
