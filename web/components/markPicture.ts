import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';

/** Widths in which the server draws marks for the page: few, so that a wall shares one picture. */
const WIDTHS_PX = [96, 192, 384, 768, 1536, 3072] as const;

/** Address of a picture of the mark's ink box, at least `widthPx` device pixels wide. */
export function markPicture(mark: MarkView, tone: ToneChoice, widthPx: number): string {
  const width = WIDTHS_PX.find((some) => some >= widthPx) ?? WIDTHS_PX[WIDTHS_PX.length - 1];
  const query = new URLSearchParams({
    version: String(mark.version),
    tone: tone.replace('#', ''),
    width: String(width),
  });
  return `/api/marks/${mark.id}/raster?${query}`;
}
