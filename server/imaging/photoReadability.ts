import { planRasters } from '#core/compose/rasterPlan';
import { scaled, type Size } from '#core/placement/geometry';
import type { Copy, Placement } from '#core/placement/placeMark';
import {
  bestReadability,
  measureReadability,
  WORKING_LONG_SIDE_PX,
  type Readability,
} from '#core/readability/measure';
import { success, type Result } from '#core/result';
import { composeMark, type MarkSource } from './compose.ts';
import { decodePhoto } from './photo/decode.ts';
import type { ProbedPhoto } from './photo/probe.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** A mark as it is placed on a photo. */
export interface PlacedMark {
  readonly mark: MarkSource;
  /** The output frame of the placement. */
  readonly frame: Size;
  readonly placement: Placement;
  /** The photo's, for a mark that writes it. */
  readonly year: number;
}

/**
 * How well a mark reads on a photo: both are brought to the working size, put together and measured
 * (contract, section 3). Nothing is written.
 *
 * @returns null where nothing of the mark lies on the photo
 */
export async function photoReadability(
  path: string,
  probed: ProbedPhoto,
  { mark, frame, placement, year }: PlacedMark,
  rasteriser: Rasteriser,
): Promise<Result<Readability | null>> {
  const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(frame.width, frame.height));
  const working = {
    width: Math.max(1, Math.round(frame.width * factor)),
    height: Math.max(1, Math.round(frame.height * factor)),
  };
  const photo = await decodePhoto(path, probed, { frame: working, flatten: probed.hasAlpha });
  if (!photo.ok) return photo;
  const copies = placement.copies.map((copy) => scaledCopy(copy, factor));
  const placed = { ...placement, copies };
  const composed = await composeMark(photo.value, placed, mark, year, rasteriser);
  if (!composed.ok) return composed;
  const { bleed } = shapeOf(mark.artwork, year);
  const measures: (Readability | null)[] = [];
  for (const copy of copies) {
    const [placing] = planRasters(working, [copy], bleed);
    if (!placing) continue;
    const core = await rasteriser.core(mark.key, mark.artwork, placing.spec, year);
    if (!core.ok) return core;
    const { left, top } = placing;
    measures.push(measureReadability(composed.value, core.value, left, top, copy.box));
  }
  return success(bestReadability(measures));
}

function scaledCopy({ box, size, rotation }: Copy, factor: number): Copy {
  const { width, height } = scaled(box, factor);
  return {
    box: { x: box.x * factor, y: box.y * factor, width, height },
    size: scaled(size, factor),
    rotation,
  };
}
