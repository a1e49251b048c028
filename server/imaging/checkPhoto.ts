import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import { cleanCrop } from '#core/placement/cleanCrop';
import type { Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import type { Readability } from '#core/readability/measure';
import { success, type Result } from '#core/result';
import type { MarkSource } from './compose.ts';
import { judgePhoto } from './judgePhoto.ts';
import { photoYear, probePhoto } from './photo/probe.ts';
import { followsYear } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { workingPhoto } from './workingPhoto.ts';

/** How a mark would sit and read on a photo at its own size. */
export interface CheckedPhoto {
  readonly frame: Size;
  readonly placement: Placement;
  readonly readability: Readability | null;
  /** Share of the frame that can be cropped free of the mark. */
  readonly cleanCrop: number;
  readonly durationMs: number;
}

/** Placement, readability and clean crop of a photo, writing nothing. */
export async function checkPhoto(
  path: string,
  rule: PresetRule,
  adjustment: Adjustment,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<CheckedPhoto>> {
  const startMs = performance.now();
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const frame = probed.value.size;
  const dated = followsYear(mark.artwork) ? await photoYear(path, probed.value) : null;
  const year = dated?.year ?? new Date().getFullYear();
  const photo = await workingPhoto(path, probed.value, frame);
  if (!photo.ok) return photo;
  const subject = { frame, rule, adjustment, year };
  const judged = await judgePhoto(photo.value, subject, mark, rasteriser);
  if (!judged.ok) return judged;
  const { placement, readability } = judged.value;
  const boxes = placement.copies.map((copy) => copy.box);
  return success({
    frame,
    placement,
    readability,
    cleanCrop: cleanCrop(frame, boxes).share,
    durationMs: Math.round(performance.now() - startMs),
  });
}
