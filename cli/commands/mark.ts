import { exampleWordsNow } from '#server/lettering/examples';
import { basename, extname } from 'node:path';
import { NAME_MAX_LENGTH, toneSchema, type ToneChoice } from '#core/contract/preset';

import type { Size } from '#core/placement/geometry';
import { MAX_ARTWORK_PIXELS } from '#server/imaging/limits';
import { markFrame } from '#server/imaging/markFrame';
import { markDrawing, markSvg, modelOf } from '#server/imaging/markFile';
import { pngOfRaster } from '#server/imaging/pngOfRaster';
import { Imaging } from '#server/imaging/pool/imaging';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import { CallError, EXIT } from '../exit.ts';
import { readMark, readPreset } from '../inputs.ts';
import { checkOutput, refuseSources, writeOutput } from '../outputs.ts';

export interface MarkOptions {
  readonly out: string;
  readonly tone?: string;
  readonly width?: string;
  /** Of a whole frame: width x height, px. */
  readonly frame?: string;
  /** What the mark lies in that frame by. */
  readonly preset?: string;
  readonly force?: true;
}

/** Width of a PNG when none is asked, px: enough for a print's corner. */
const DEFAULT_WIDTH_PX = 2_000;
const MOST_WIDTH_PX = 16_000;

/** A mark as transparent PNG or as SVG (contract, section 6). */
export async function mark(file: string, options: MarkOptions): Promise<number> {
  const showing = { tone: toneOf(options.tone ?? 'original'), words: exampleWordsNow() };
  const ending = extname(options.out).toLowerCase();
  if (ending !== '.png' && ending !== '.svg') {
    throw new CallError(`--out: expected a .png or .svg file, found ${options.out}.`);
  }
  const frame = options.frame === undefined ? null : frameOf(options.frame);
  if (frame) checkFrameCall(options, ending);
  else if (options.preset !== undefined) throw new CallError('--preset: expected beside --frame.');
  const widthPx = widthOf(options.width ?? String(DEFAULT_WIDTH_PX));
  const writing = { sources: [file], force: options.force ?? false };
  await refuseSources(options.out, writing);
  const imaging = new Imaging();
  try {
    const given = await readMark(file, imaging);
    await checkOutput(options.out, writing);
    if (ending === '.svg') {
      const name = given.name ?? basename(file, extname(file)).slice(0, NAME_MAX_LENGTH);
      const model = modelOf(given.artwork, name, given.origin);
      const svg = await markSvg(given.artwork, showing, model);
      if (!svg.ok) throw new CallError(`${file}: ${svg.reason}`);
      await writeOutput(options.out, svg.value, writing);
      return EXIT.done;
    }
    const rasteriser = new Rasteriser(imaging.drawer);
    const raster = frame
      ? await markFrame(
          given,
          {
            ...{ frame, rule: (await readPreset(options.preset ?? null)).value },
            tone: options.tone === undefined ? null : showing.tone,
            words: showing.words,
          },
          rasteriser,
        )
      : await markDrawing(given, showing, widthPx, 'whole', rasteriser);
    if (!raster.ok) throw new CallError(`${file}: ${raster.reason}`);
    await writeOutput(options.out, await pngOfRaster(raster.value), writing);
    return EXIT.done;
  } finally {
    imaging.close();
  }
}

function toneOf(text: string): ToneChoice {
  const tone = toneSchema.safeParse(text);
  if (tone.success) return tone.data;
  throw new CallError(`--tone: expected light, dark, original or #rrggbb, found ${text}.`);
}

const FRAME = /^(\d{1,5})x(\d{1,5})$/;

function frameOf(text: string): Size {
  const [, width, height] = FRAME.exec(text)?.map(Number) ?? [];
  const frame = { width, height };
  if (!(width >= 1 && height >= 1)) {
    throw new CallError(`--frame: expected a width and height in px as 1920x1080, found ${text}.`);
  }
  const isPossible = width <= MOST_WIDTH_PX && height <= MOST_WIDTH_PX;
  if (isPossible && width * height <= MAX_ARTWORK_PIXELS) return frame;
  throw new CallError(
    `--frame: expected at most ${MOST_WIDTH_PX} px a side and ${MAX_ARTWORK_PIXELS / 1e6} megapixels, ` +
      `found ${text}.`,
  );
}

function checkFrameCall({ width, out }: MarkOptions, ending: string): void {
  if (width !== undefined) throw new CallError('--width: expected without --frame, found both.');
  if (ending !== '.png') throw new CallError(`--frame: expected a .png file, found ${out}.`);
}

function widthOf(text: string): number {
  const width = Number(text);
  if (Number.isInteger(width) && width >= 1 && width <= MOST_WIDTH_PX) return width;
  throw new CallError(`--width: expected whole pixels from 1 to ${MOST_WIDTH_PX}, found ${text}.`);
}
