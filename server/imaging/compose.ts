import type { PhotoWords } from '#core/lettering/words';
import { blendMark } from '#core/compose/blendMark';
import { planRasters } from '#core/compose/rasterPlan';
import type { Canvas, Pixels, Raster } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import type { Copy, Placement } from '#core/placement/placeMark';
import { rescueBleed } from '#core/readability/rescueShape';
import { success, type Result } from '#core/result';
import { shapeOf, type Artwork } from './raster/artwork.ts';
import { inProfile, type Profile } from './raster/inProfile.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** A mark by a key that names its version, with its artwork. */
export interface MarkSource {
  readonly key: string;
  readonly artwork: Artwork;
}

/** A mark as it lies on a photo. */
export interface LaidMark {
  readonly placement: Placement;
  readonly mark: MarkSource;
  /** Of the photo, for a mark that holds some. */
  readonly words: PhotoWords;
}

/** Part of a frame that is held as pixels. */
export interface Window {
  readonly frame: Size;
  /** Of the pixels in the frame, whole px. */
  readonly left: number;
  readonly top: number;
}

/**
 * Draws every copy of a placement into the photo, in place.
 *
 * @param profile of the photo's colours, or null: sRGB
 * @param window where `photo` is only a part of the frame that the placement is for
 */
export async function composeMark<Photo extends Pixels | Canvas>(
  photo: Photo,
  laid: LaidMark,
  rasteriser: Rasteriser,
  profile: Profile | null = null,
  window: Window = { frame: photo, left: 0, top: 0 },
): Promise<Result<Photo>> {
  for await (const drawn of drawnRasters(window.frame, laid, rasteriser, profile)) {
    if (!drawn.ok) return drawn;
    blendDrawn(photo, drawn.value, window);
  }
  return success(photo);
}

/** A raster where it lies on a frame. */
export interface DrawnRaster {
  readonly raster: Raster;
  readonly left: number;
  readonly top: number;
  readonly opacity: number;
  readonly blend: Placement['blend'];
}

/** All that is to be blended for a mark, in order; one after the other, since there may be many copies. */
export async function* drawnRasters(
  frame: Size,
  laid: LaidMark,
  rasteriser: Rasteriser,
  profile: Profile | null,
): AsyncGenerator<Result<DrawnRaster>> {
  const { placement, mark, words } = laid;
  const { key, artwork } = mark;
  const { bleed } = shapeOf(artwork, words);
  const { opacity, blend, tone, copies, rescue } = placement;
  for (const { spec, left, top } of rescuePlacings(frame, laid)) {
    // There are none without it.
    if (!rescue) return;
    const under = await rasteriser.rescue(key, artwork, spec, rescue, words);
    if (!under.ok) return yield under;
    const raster = await inProfile(under.value, profile);
    yield success({ raster, left, top, opacity: rescue.strength, blend: 'normal' });
  }
  for (const { spec, left, top } of planRasters(frame, copies, bleed)) {
    const ink = await rasteriser.raster(key, artwork, spec, tone, words);
    if (!ink.ok) return yield ink;
    yield success({ raster: await inProfile(ink.value, profile), left, top, opacity, blend });
  }
}

/** @param at what the photo is of the frame that the raster lies on */
export function blendDrawn(
  photo: Pixels | Canvas,
  { raster, left, top, opacity, blend }: DrawnRaster,
  at: Pick<Window, 'left' | 'top'>,
): void {
  blendMark(photo, raster, left - at.left, top - at.top, opacity, blend);
}

/** What of a frame the copies of a placement may change, with what helps them; px. */
export function coveredBoxes(frame: Size, laid: LaidMark): Box[] {
  const { bleed } = shapeOf(laid.mark.artwork, laid.words);
  const placings = planRasters(frame, laid.placement.copies, bleed);
  const all = [...rescuePlacings(frame, laid), ...placings];
  return all.map(({ spec: { width, height }, left, top }) => ({ x: left, y: top, width, height }));
}

/** Under all copies before any is drawn, so that no plate covers a neighbour's ink. */
export function rescuePlacings(frame: Size, { placement, mark, words }: LaidMark) {
  const { rescue, copies } = placement;
  const { bleed } = shapeOf(mark.artwork, words);
  if (!rescue) return [];
  const placings = (copy: Copy) =>
    planRasters(frame, [copy], rescueBleed(rescue.kind, copy.size, bleed));
  return copies.flatMap(placings);
}
