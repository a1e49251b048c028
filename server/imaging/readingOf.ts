import type { PhotoWords } from '#core/lettering/words';
import { planRasters } from '#core/compose/rasterPlan';
import type { Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import { inkParts, type InkParts } from '#core/readability/inkParts';
import {
  bestCopy,
  measureReadability,
  type Measured,
  type Readability,
} from '#core/readability/measure';
import { success, type Result } from '#core/result';
import { composeMark, type MarkSource } from './compose.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { windowRound, workingCopies } from './workingCopies.ts';
import { cutOut, type WorkingPhoto } from './workingPhoto.ts';

/** How one placement reads: only the pixels that the measure looks at are put together. */
export async function readingOf(
  photo: WorkingPhoto,
  placement: Placement,
  { frame, words }: { readonly frame: Size; readonly words: PhotoWords },
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Readability | null>> {
  const { size } = photo;
  const copies = workingCopies(placement, size, frame);
  const window = windowRound(copies, size);
  if (!window) return success(null);
  const { x: left, y: top } = window;
  const part = cutOut(photo.pixels, { ...window, x: left - photo.left, y: top - photo.top });
  const place = { frame: size, left, top };
  const working = { ...placement, copies };
  const laid = { placement: working, mark, words };
  const composed = await composeMark(part, laid, rasteriser, null, place);
  if (!composed.ok) return composed;
  const { bleed } = shapeOf(mark.artwork, words);
  const measures: (MeasuredCopy | null)[] = [];
  for (const copy of copies) {
    const [placing] = planRasters(size, [copy], bleed);
    if (!placing) continue;
    const core = await rasteriser.core(mark.key, mark.artwork, placing.spec, words);
    if (!core.ok) return core;
    const box = { ...copy.box, x: copy.box.x - left, y: copy.box.y - top };
    const measure = (parts: InkParts | null): Measured | null =>
      measureReadability(part, core.value, placing.left - left, placing.top - top, box, parts);
    const longer = Math.max(copy.size.width, copy.size.height);
    const parts = (): InkParts => inkParts(core.value, longer);
    // Of many copies only the one that counts is looked at part by part.
    const measured = measure(copies.length === 1 ? parts() : null);
    const byParts = () => (copies.length === 1 ? measured : measure(parts()));
    measures.push(measured && { ...measured, byParts });
  }
  const best = bestCopy(measures)?.byParts() ?? null;
  return success(best && readabilityOf(best, left, top, size));
}

/** A copy measured as a whole, which can be measured part by part. */
interface MeasuredCopy extends Measured {
  readonly byParts: () => Measured | null;
}

/** @param left, top of what was measured, in a photo of that size */
function readabilityOf(measured: Measured, left: number, top: number, size: Size): Readability {
  const { weakestPx: box, ...rest } = measured;
  const weakestBox = box && {
    x: (box.x + left) / size.width,
    y: (box.y + top) / size.height,
    width: box.width / size.width,
    height: box.height / size.height,
  };
  return { ...rest, weakestBox };
}
