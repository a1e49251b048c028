import type { LiftSettings, QuarterTurn } from '#core/contract/lift';
import { liftedInk, preparedSheet } from '#core/ink/lift';
import { readSheet } from '#core/ink/sheetPaper';
import { inkRaster, keepsOutlines, outlinesSvg, tracedInk } from '#core/ink/liftArtwork';
import { defaultLift, suggestedLift } from '#core/ink/suggestedLift';
import type { Box } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import { MAX_SCAN_PIXELS } from '../limits.ts';
import { decodePhoto } from '../photo/decode.ts';
import { probePhoto } from '../photo/probe.ts';
import { sharpOf } from '../sharp.ts';

/** What comes of a scan: pixels always, outlines where they were asked for or are good enough. */
export interface LiftedFile {
  readonly png: Uint8Array;
  /** Null where the ink keeps its colours. */
  readonly svg: string | null;
  /** Whether the outlines are what is to be kept. */
  readonly keepsOutlines: boolean;
  /** Within the crop, px. */
  readonly inkBox: Box;
  /** 0 to 1, 1 is perfectly even light on the sheet. */
  readonly evenness: number;
  readonly specksRemoved: number;
  /** Whether ink runs on beyond what was taken for paper. */
  readonly cutsInk: boolean;
}

/** @param settings or how they follow from the scan */
export async function liftFile(
  path: string,
  settings: LiftSettings | ((pixels: Pixels) => LiftSettings),
): Promise<Result<LiftedFile>> {
  const pixels = await scanPixels(path);
  if (!pixels.ok) return pixels;
  const photo = readSheet(pixels.value);
  const chosen = typeof settings === 'function' ? settings(pixels.value) : settings;
  const sheet = preparedSheet(photo, chosen);
  const ink = liftedInk(sheet, chosen);
  if (!ink.ok) return ink;
  const outlines = tracedInk(ink.value, chosen);
  return success({
    png: await sharpOf(inkRaster(ink.value)).png().toBuffer(),
    svg: outlines && outlinesSvg(outlines.outlines),
    keepsOutlines: keepsOutlines(outlines, chosen),
    inkBox: ink.value.inkBox,
    evenness: sheet.evenness,
    specksRemoved: ink.value.specks.length,
    cutsInk: chosen.sheet === 'found' && (photo.found?.cutsInk ?? false),
  });
}

/** Settings to begin with: straightened, turned as told, cropped round the ink. */
export async function suggestedFor(path: string, turn: QuarterTurn): Promise<Result<LiftSettings>> {
  const pixels = await scanPixels(path);
  if (!pixels.ok) return pixels;
  const photo = readSheet(pixels.value);
  return success(suggestedLift(photo, { ...defaultLift(photo), turn }));
}

async function scanPixels(path: string): Promise<Result<Pixels>> {
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const { width, height } = probed.value.size;
  if (width * height > MAX_SCAN_PIXELS) {
    const megapixels = Math.round((width * height) / 1e6);
    return failure(
      `Expected a scan of at most ${MAX_SCAN_PIXELS / 1e6} megapixels, found ${megapixels}. Scan it at 600 dpi or less.`,
    );
  }
  return decodePhoto(path, probed.value, { frame: null, flatten: true });
}
