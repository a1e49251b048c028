import type { PresetRule, ToneChoice } from '#core/contract/preset';
import type { PhotoWords } from '#core/lettering/words';
import { photoRule } from '#core/placement/adjustment';
import type { Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { firstChoice } from '#core/readability/choice';
import { success, type Result } from '#core/result';
import type { Raster } from '#core/pixels';
import { composeMark, type MarkSource } from './compose.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** How a mark lies on a frame without a photo. */
export interface FrameWish {
  readonly frame: Size;
  readonly rule: PresetRule;
  /** Null: the first that the rule allows, since there is no photo to choose by. */
  readonly tone: ToneChoice | null;
  readonly words: PhotoWords;
}

/**
 * A transparent picture of a whole frame with the mark where a preset puts it, to be laid over a video or a
 * page elsewhere. What a rule chooses by looking at a photo is what it names first; blending is left to
 * whoever lays it.
 */
export async function markFrame(
  mark: MarkSource,
  { frame, rule, tone, words }: FrameWish,
  rasteriser: Rasteriser,
): Promise<Result<Raster>> {
  const { aspect } = shapeOf(mark.artwork, words);
  const first = firstChoice(photoRule(rule, {}, frame));
  const placed = placeMark(frame, aspect, rule, {}, tone === null ? first : { ...first, tone });
  if (!placed.ok) return placed;
  const { width, height } = frame;
  const canvas: Raster = {
    ...{ width, height, channels: 4 },
    data: new Uint8ClampedArray(width * height * 4),
  };
  const placement = { ...placed.value, blend: 'normal' as const };
  const composed = await composeMark(canvas, { placement, mark, words }, rasteriser);
  return composed.ok ? success(canvas) : composed;
}
