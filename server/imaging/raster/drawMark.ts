import { exampleWordsNow } from '../../lettering/examples.ts';
import { LRUCache } from 'lru-cache';
import { crisp } from '#core/design/crisp';
import { markToSvg, type MarkSvg } from '#core/design/markToSvg';
import { withoutFinishes } from '#core/design/edit';
import { finishOf } from '#core/design/measure';
import { traced } from '#core/ink/traced';
import { withoutBackground } from '#core/ink/withoutBackground';
import { drawingSvg } from '#core/mark/svg/drawing';
import { matrixOf } from '#core/path/matrix';
import { pathOfOutlines, pathTextWith, transformedPath } from '#core/path/path';
import type { Box } from '#core/placement/geometry';
import type { Raster } from '#core/pixels';
import type { Result } from '#core/result';
import { averaged } from '#core/compose/averaged';
import type { RasterSpec } from '#core/compose/rasterPlan';
import { MAX_ARTWORK_PIXELS } from '../limits.ts';
import { messageOf } from '../imageErrors.ts';
import { sharp } from '../sharp.ts';
import { withSvgReader } from './svgReader.ts';
import { contextOf, wordsOn, shapeOf, type Artwork, type DesignArtwork } from './artwork.ts';
import type { PlainArtwork, RasterAnswer, RasterRequest, Showing } from './artwork.ts';

/**
 * Draws marks, in an imaging process alone: a drawing without end is killed with it. SVG is read only
 * while a mark is drawn, and only from memory, where the renderer cannot reach a neighbouring file.
 */
const KEPT_DESIGNS = 8;
/** Marks are drawn about this large at least, px of the longer side, as far as the factor goes. */
const FINE_PX = 900;
const MOST_TIMES_LARGER = 4;
/** Longer side at which artwork is traced, px. */
const TRACED_LONG_SIDE_PX = 2_000;
/** Artwork may be drawn in units as large as an inch. */
const PATH_DECIMALS = 4;

/** Answers a request; several may be under way. */
export async function drawMark(request: RasterRequest): Promise<RasterAnswer> {
  try {
    return await withSvgReader(() => answer(request));
  } catch (error) {
    return { ok: false, reason: messageOf(error) };
  }
}

async function answer(request: RasterRequest): Promise<RasterAnswer> {
  switch (request.do) {
    case 'draw':
      return drawing(request.artwork, request.spec, request.showing);
    case 'trace':
      return { ok: true, path: await tracedPath(request.artwork) };
    case 'decode':
      return answerOf(await decoded(request.bytes));
    case 'unbox': {
      const boxed = await decoded(request.bytes);
      return answerOf(withoutBackground(boxed, request.colour, request.from));
    }
    default:
      throw new Error(`Unknown request ${request satisfies never}`);
  }
}

function decoded(bytes: Uint8Array): Promise<Raster> {
  return rasterOf(sharp(bytes, { limitInputPixels: MAX_ARTWORK_PIXELS }).autoOrient());
}

type Pipeline = ReturnType<typeof sharp>;

async function pixelsOf(pipeline: Pipeline): Promise<RasterAnswer> {
  return answerOf(await rasterOf(pipeline));
}

async function rasterOf(pipeline: Pipeline): Promise<Raster> {
  const { data, info } = await pipeline
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: pixels, width: info.width, height: info.height, channels: 4 };
}

function answerOf({ data, width, height }: Raster): RasterAnswer {
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  return { ok: true, data: bytes, width, height };
}

async function drawing(
  artwork: Artwork,
  spec: RasterSpec,
  showing: Showing | null,
): Promise<RasterAnswer> {
  if (artwork.kind === 'svg') return answerOf(await finelyDrawn(artwork.svg, artwork, spec));
  if (artwork.kind === 'png') return pixelsOf(await drawn(artwork, spec));
  const shown = showing ?? { tone: 'original', words: exampleWordsNow() };
  const { ink, isEmpty } = shapeOf(artwork, shown.words);
  if (isEmpty) return answerOf(nothingOn(spec));
  const svg = designSvg(artwork, shown);
  if (!svg.ok) return svg;
  // A mark without its finishes has the place it has with them.
  const raster = await finelyDrawn(svg.value.svg, { natural: svg.value.natural, ink }, spec);
  if (shown.isBare) return answerOf(raster);
  const crispness = finishOf(artwork.design.finishes, 'crispness');
  return answerOf(crispness ? crisp(raster, crispness.amount) : raster);
}

/** What a mark looks like that takes words of a photo which has none. */
function nothingOn({ width, height }: RasterSpec): Raster {
  return { data: new Uint8ClampedArray(width * height * 4), width, height, channels: 4 };
}

/**
 * Small marks are drawn larger and averaged: the renderer bends curves into straight pieces that
 * may be a tenth of a pixel off, which shows where a stroke is thinner than a pixel.
 */
async function finelyDrawn(
  svg: string,
  boxes: { readonly natural: Box; readonly ink: Box },
  spec: RasterSpec,
): Promise<Raster> {
  const longSide = Math.max(spec.width, spec.height);
  const factor = Math.min(MOST_TIMES_LARGER, Math.max(1, Math.floor(FINE_PX / longSide)));
  const larger = {
    width: spec.width * factor,
    height: spec.height * factor,
    centreX: spec.centreX * factor,
    centreY: spec.centreY * factor,
    markWidth: spec.markWidth * factor,
    markHeight: spec.markHeight * factor,
    rotation: spec.rotation,
  };
  return averaged(await rasterOf(drawnSvg(svg, boxes, larger)), factor);
}

/** The last designs as SVG: a batch asks for the same one in many sizes. */
const designs = new LRUCache<string, Result<MarkSvg>>({ max: KEPT_DESIGNS });

function designSvg(artwork: DesignArtwork, { tone, words, isBare }: Showing): Result<MarkSvg> {
  const design = isBare ? withoutFinishes(artwork.design) : artwork.design;
  const key = JSON.stringify([design, tone, wordsOn(artwork, words), artwork.fontFolders]);
  let svg = designs.get(key);
  if (!svg) {
    svg = markToSvg(design, tone, contextOf(artwork, words));
    designs.set(key, svg);
  }
  return svg;
}

async function tracedPath(artwork: PlainArtwork): Promise<string> {
  const { ink } = artwork;
  const scale = TRACED_LONG_SIDE_PX / Math.max(ink.width, ink.height);
  const size = { width: Math.ceil(ink.width * scale), height: Math.ceil(ink.height * scale) };
  const spec = {
    ...size,
    centreX: (ink.width * scale) / 2,
    centreY: (ink.height * scale) / 2,
    markWidth: ink.width * scale,
    markHeight: ink.height * scale,
    rotation: 0,
  };
  const { data, width, height } = await rasterOf(await drawn(artwork, spec));
  const coverage = new Uint8Array(width * height);
  for (let at = 0; at < coverage.length; at++) coverage[at] = data[at * 4 + 3];
  const { outlines } = traced({ data: coverage, width, height }, 0);
  const onArtwork = matrixOf(ink.x, ink.y, 0, 1 / scale, 1 / scale);
  return pathTextWith(transformedPath(pathOfOutlines(outlines), onArtwork), PATH_DECIMALS);
}

async function drawn(artwork: PlainArtwork, spec: RasterSpec): Promise<Pipeline> {
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

function drawnSvg(
  content: string,
  { natural, ink }: { readonly natural: Box; readonly ink: Box },
  spec: RasterSpec,
): Pipeline {
  const svg = drawingSvg(content, natural, ink, spec);
  return sharp(Buffer.from(svg), { limitInputPixels: MAX_ARTWORK_PIXELS, unlimited: true });
}

function embedded(png: Uint8Array, artwork: PlainArtwork): string {
  const data = Buffer.from(png).toString('base64');
  const { width, height } = artwork.natural;
  return (
    `<image width="${width}" height="${height}" preserveAspectRatio="none" ` +
    `href="data:image/png;base64,${data}"/>`
  );
}
