import type { MarkModel, MarkOrigin } from '#core/contract/mark';
import type { ToneChoice } from '#core/contract/preset';
import { markToSvg } from '#core/design/markToSvg';
import { withMarkModel } from '#core/mark/markFile';
import { inTone } from '#core/mark/tone';
import { pictureSvg, tonedSvg } from '#core/mark/tonedSvg';
import type { Raster } from '#core/pixels';
import { success, type Result } from '#core/result';
import type { MarkSource } from './compose.ts';
import {
  contextOf,
  shapeOf,
  type Artwork,
  type PlainArtwork,
  type Showing,
} from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { sharp, sharpOf } from './sharp.ts';

/** A mark to take elsewhere: as pixels of a width, or as SVG. */

/**
 * A mark on a transparent ground.
 *
 * @param reach `bleed`: the ink box is `widthPx` wide, with the same room for what is soft on
 *   opposite sides of it; `whole`: all that is drawn is `widthPx` wide, with no room round it
 */
export function markDrawing(
  { key, artwork }: MarkSource,
  { tone, words }: Showing,
  widthPx: number,
  reach: 'bleed' | 'whole',
  rasteriser: Rasteriser,
): Promise<Result<Raster>> {
  const { ink, natural, bleed } = shapeOf(artwork, words);
  const shown =
    reach === 'bleed'
      ? {
          x: ink.x - bleed.x * ink.width,
          y: ink.y - bleed.y * ink.height,
          width: ink.width * (1 + 2 * bleed.x),
          height: ink.height * (1 + 2 * bleed.y),
        }
      : artwork.kind === 'design'
        ? natural
        : ink;
  const scale = widthPx / (reach === 'bleed' ? ink.width : shown.width);
  const spec = {
    width: Math.max(1, Math.round(shown.width * scale)),
    height: Math.max(1, Math.round(shown.height * scale)),
    centreX: (ink.x + ink.width / 2 - shown.x) * scale,
    centreY: (ink.y + ink.height / 2 - shown.y) * scale,
    markWidth: ink.width * scale,
    markHeight: ink.height * scale,
    rotation: 0,
  };
  return rasteriser.raster(key, artwork, spec, tone, words);
}

/** The model that goes into a mark's file. */
export function modelOf(artwork: Artwork, name: string, origin: MarkOrigin): MarkModel {
  const parts = artwork.kind === 'design' ? artwork.parts : {};
  return { format: 'light-crest/mark', version: 1, name, origin, parts };
}

/** A plain SVG in a tone, with the model inside. */
export async function markSvg(
  artwork: Artwork,
  { tone, words }: Showing,
  model: MarkModel,
): Promise<Result<string>> {
  if (artwork.kind === 'design') {
    const drawn = markToSvg(artwork.design, tone, contextOf(artwork, words));
    return drawn.ok ? success(withMarkModel(drawn.value.svg, model)) : drawn;
  }
  const plain =
    artwork.kind === 'svg' ? tonedSvg(artwork.svg, tone) : await embedded(artwork, tone);
  return success(withMarkModel(plain, model));
}

async function embedded(
  { png }: Extract<PlainArtwork, { kind: 'png' }>,
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
  const bytes = await sharpOf(toned).png().toBuffer();
  return pictureSvg(bytes.toString('base64'), width, height);
}
