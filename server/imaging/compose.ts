import { blendMark } from '#core/compose/blendMark';
import { planRasters } from '#core/compose/rasterPlan';
import type { Pixels } from '#core/pixels';
import type { Placement } from '#core/placement/placeMark';
import { success, type Result } from '#core/result';
import { shapeOf, type Artwork } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** A mark by a key that names its version, with its artwork. */
export interface MarkSource {
  readonly key: string;
  readonly artwork: Artwork;
}

/** Draws every copy of a placement into the photo, in place. @param year the photo's */
export async function composeMark(
  photo: Pixels,
  placement: Placement,
  mark: MarkSource,
  year: number,
  rasteriser: Rasteriser,
): Promise<Result<Pixels>> {
  const { key, artwork } = mark;
  const { bleed } = shapeOf(artwork, year);
  for (const { spec, left, top } of planRasters(photo, placement.copies, bleed)) {
    const raster = await rasteriser.raster(key, artwork, spec, placement.tone, year);
    if (!raster.ok) return raster;
    blendMark(photo, raster.value, left, top, placement.opacity, placement.blend);
  }
  return success(photo);
}
