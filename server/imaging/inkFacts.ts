import type { PhotoWords } from '#core/lettering/words';
import type { Rgb } from '#core/colour/hex';
import { inkPoints, type InkPoints } from '#core/readability/inkPoints';
import { success, type Result } from '#core/result';
import type { MarkSource } from './compose.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** Where a mark has ink and what colour that has, as readability needs to know it. */
export interface InkFacts {
  readonly points: InkPoints;
  /** Mean colour of its ink in its own colours. */
  readonly colour: Rgb;
}

/** Px of the ink box's longer side: strokes are a few pixels wide at that. */
const LONGER_SIDE_PX = 320;

/** Alpha from which a pixel is ink. */
const INK_ALPHA = 128;

export async function inkFacts(
  { key, artwork }: MarkSource,
  words: PhotoWords,
  rasteriser: Rasteriser,
): Promise<Result<InkFacts>> {
  const { aspect } = shapeOf(artwork, words);
  const width = Math.max(1, Math.round(LONGER_SIDE_PX * Math.min(1, aspect)));
  const height = Math.max(1, Math.round(LONGER_SIDE_PX / Math.max(1, aspect)));
  const middle = { centreX: width / 2, centreY: height / 2, rotation: 0 };
  const spec = { width, height, markWidth: width, markHeight: height, ...middle };
  const core = await rasteriser.core(key, artwork, spec, words);
  if (!core.ok) return core;
  const drawn = await rasteriser.raster(key, artwork, spec, 'original', words);
  if (!drawn.ok) return drawn;
  return success({ points: inkPoints(core.value), colour: meanColour(drawn.value.data) });
}

function meanColour(data: Uint8ClampedArray): Rgb {
  const sums = [0, 0, 0];
  let count = 0;
  for (let at = 0; at < data.length; at += 4) {
    if (data[at + 3] < INK_ALPHA) continue;
    count++;
    for (let c = 0; c < 3; c++) sums[c] += data[at + c];
  }
  const mean = (sum: number): number => (count > 0 ? Math.round(sum / count) : 0);
  return [mean(sums[0]), mean(sums[1]), mean(sums[2])];
}
