import type { Box } from '../placement/geometry.ts';

/** Raster artwork with a longer side below this, px, goes soft on many photos. */
export const SMALL_ARTWORK_PX = 1_200;

/** Share of a photo's long side that a mark usually takes, for speaking of photos. */
const USUAL_SHARE = 0.16;

/**
 * What raster artwork is large enough for: the widest it can be drawn without being enlarged, and
 * the photo on which a mark of usual size is that wide, px on the long side. Null: large enough.
 */
export function sharpUpTo(
  kind: 'svg' | 'png',
  ink: Pick<Box, 'width' | 'height'>,
): { readonly widthPx: number; readonly photoLongSidePx: number; readonly share: number } | null {
  if (kind === 'svg') return null;
  const longSide = Math.max(ink.width, ink.height);
  if (longSide >= SMALL_ARTWORK_PX) return null;
  return {
    widthPx: Math.round(ink.width),
    photoLongSidePx: Math.round(longSide / USUAL_SHARE),
    share: USUAL_SHARE,
  };
}
