import type { MarkModel } from '#core/contract/mark';
import type { ToneChoice } from '#core/contract/preset';
import { withMarkModel } from '#core/mark/markFile';
import { inTone } from '#core/mark/tone';
import { pictureSvg, tonedSvg } from '#core/mark/tonedSvg';
import type { Raster } from '#core/pixels';
import type { Result } from '#core/result';
import type { MarkSource } from './compose.ts';
import type { Artwork } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { sharp } from './sharp.ts';

/** A mark to take elsewhere: as pixels of a width, or as SVG. */

/** The ink box drawn `widthPx` wide on a transparent ground. */
export function markDrawing(
  { key, artwork }: MarkSource,
  tone: ToneChoice,
  widthPx: number,
  rasteriser: Rasteriser,
): Promise<Result<Raster>> {
  const height = Math.max(1, Math.round((widthPx * artwork.ink.height) / artwork.ink.width));
  const spec = {
    width: widthPx,
    height,
    centreX: widthPx / 2,
    centreY: height / 2,
    markWidth: widthPx,
    markHeight: height,
    rotation: 0,
  };
  return rasteriser.raster(key, artwork, spec, tone);
}

/** A plain SVG in a tone, with the model inside. */
export async function markSvg(
  artwork: Artwork,
  tone: ToneChoice,
  model: MarkModel,
): Promise<string> {
  const plain =
    artwork.kind === 'svg' ? tonedSvg(artwork.svg, tone) : await embedded(artwork, tone);
  return withMarkModel(plain, model);
}

async function embedded(
  { png }: Extract<Artwork, { kind: 'png' }>,
  tone: ToneChoice,
): Promise<string> {
  const { data, info } = await sharp(png)
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  const toned = inTone({ data: pixels, width, height, channels: 4 }, tone);
  const bytes = await sharp(toned.data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
  return pictureSvg(bytes.toString('base64'), width, height);
}
