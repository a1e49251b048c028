import { withoutBackground } from '#core/ink/withoutBackground';
import { drawingSvg } from '#core/mark/svg/drawing';
import type { RasterSpec } from '#core/compose/rasterPlan';
import { MAX_ARTWORK_PIXELS } from '../limits.ts';
import { messageOf } from '../imageErrors.ts';
import { sharp } from '../sharp.ts';
import type { Artwork, RasterAnswer, RasterRequest } from './artwork.ts';

/**
 * The process that draws marks. It is separate so that a drawing without end can be killed; it alone
 * may read SVG, and only from memory, where the renderer cannot reach a neighbouring file.
 */
sharp.unblock({ operation: ['VipsForeignLoadSvg'] });

process.on('message', (request: RasterRequest) => {
  answer(request).then(
    (result) => process.send?.(result),
    (error) => process.send?.({ ok: false, reason: messageOf(error) } satisfies RasterAnswer),
  );
});
process.on('disconnect', () => process.exit(0));

async function answer(request: RasterRequest): Promise<RasterAnswer> {
  switch (request.do) {
    case 'draw':
      return pixelsOf(await drawn(request.artwork, request.spec));
    case 'decode':
      return decoded(request.bytes);
    case 'unbox': {
      const boxed = await decoded(request.bytes);
      if (!boxed.ok) return boxed;
      const { data, width, height } = boxed;
      const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
      const raster = { data: pixels, width, height, channels: 4 } as const;
      const free = withoutBackground(raster, request.colour, request.from);
      return { ok: true, data: new Uint8Array(free.data.buffer), width, height };
    }
    default:
      throw new Error(`Unknown request ${request satisfies never}`);
  }
}

function decoded(bytes: Uint8Array): Promise<RasterAnswer> {
  return pixelsOf(sharp(bytes, { limitInputPixels: MAX_ARTWORK_PIXELS }).autoOrient());
}

type Pipeline = ReturnType<typeof sharp>;

async function pixelsOf(pipeline: Pipeline): Promise<RasterAnswer> {
  const { data, info } = await pipeline
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { ok: true, data, width: info.width, height: info.height };
}

async function drawn(artwork: Artwork, spec: RasterSpec): Promise<Pipeline> {
  if (artwork.kind === 'svg') return drawnSvg(artwork.svg, artwork, spec);
  const width = Math.max(1, Math.round(spec.markWidth));
  const height = Math.max(1, Math.round(spec.markHeight));
  const whole = width <= spec.width && height <= spec.height;
  if (spec.rotation % 360 === 0 && whole) return laidOut(artwork.png, width, height, spec);
  // Scaled well first: the SVG renderer only has a coarse filter for pictures.
  const shrinks = width < artwork.natural.width && height < artwork.natural.height;
  const png = shrinks
    ? await sharp(artwork.png).resize(width, height, { fit: 'fill' }).png().toBuffer()
    : artwork.png;
  return drawnSvg(embedded(png, artwork), artwork, spec);
}

async function laidOut(png: Uint8Array, width: number, height: number, spec: RasterSpec) {
  const left = Math.min(Math.max(Math.round(spec.centreX - width / 2), 0), spec.width - width);
  const top = Math.min(Math.max(Math.round(spec.centreY - height / 2), 0), spec.height - height);
  return sharp(png)
    .ensureAlpha()
    .resize(width, height, { fit: 'fill' })
    .extend({
      left,
      top,
      right: spec.width - width - left,
      bottom: spec.height - height - top,
      background: { r: 0, g: 0, b: 0, alpha: 0 },
    });
}

function drawnSvg(content: string, artwork: Artwork, spec: RasterSpec): Pipeline {
  const svg = drawingSvg(content, artwork.natural, artwork.ink, spec);
  return sharp(Buffer.from(svg), { limitInputPixels: MAX_ARTWORK_PIXELS, unlimited: true });
}

function embedded(png: Uint8Array, artwork: Artwork): string {
  const data = Buffer.from(png).toString('base64');
  const { width, height } = artwork.natural;
  return (
    `<image width="${width}" height="${height}" preserveAspectRatio="none" ` +
    `href="data:image/png;base64,${data}"/>`
  );
}
