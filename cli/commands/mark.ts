import { exampleWordsNow } from '#server/lettering/examples';
import { basename, extname } from 'node:path';
import { NAME_MAX_LENGTH, toneSchema, type ToneChoice } from '#core/contract/preset';

import { markDrawing, markSvg, modelOf } from '#server/imaging/markFile';
import { pngOfRaster } from '#server/imaging/pngOfRaster';
import { Imaging } from '#server/imaging/pool/imaging';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import { CallError, EXIT } from '../exit.ts';
import { readMark } from '../inputs.ts';
import { checkOutput, refuseSources, writeOutput } from '../outputs.ts';

export interface MarkOptions {
  readonly out: string;
  readonly tone?: string;
  readonly width?: string;
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
    const raster = await markDrawing(
      given,
      showing,
      widthPx,
      'whole',
      new Rasteriser(imaging.drawer),
    );
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

function widthOf(text: string): number {
  const width = Number(text);
  if (Number.isInteger(width) && width >= 1 && width <= MOST_WIDTH_PX) return width;
  throw new CallError(`--width: expected whole pixels from 1 to ${MOST_WIDTH_PX}, found ${text}.`);
}
