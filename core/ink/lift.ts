import type { LiftSettings } from '../contract/lift.ts';
import { VISIBLE_ALPHA } from '../mark/inkBox.ts';
import type { Pixels, Raster } from '../pixels.ts';
import type { Box } from '../placement/geometry.ts';
import { failure, success, type Result } from '../result.ts';
import { coverage, crispEdges, softenedEdges, weighted } from './coverage.ts';
import { rubOut, strokedPixels } from './handwork.ts';
import { automaticLevels, reflectanceHistogram, type Levels } from './levels.ts';
import type { Coverage, Reflectance } from './plane.ts';
import { onWhitePaper, reflectance } from './reflectance.ts';
import { sheetPaper, type SheetPaper, type SheetPhoto } from './sheetPaper.ts';
import { sheetView, viewPixels, type SheetView } from './sheetView.ts';
import { cleaned, type Speck } from './specks.ts';
import { withoutBackground } from './withoutBackground.ts';

/**
 * Ink on paper → coverage, in three steps that can be shown one by one: the photo is read once
 * (`readSheet`, in sheetPaper.ts), looked at as the geometry says (`preparedSheet`), and the ink taken from it
 * (`liftedInk`). While a control moves only the steps after it run again.
 */

export interface PreparedSheet extends SheetPaper {
  readonly view: SheetView;
  /** The cropped view. */
  readonly pixels: Pixels;
  readonly plane: Reflectance;
  readonly histogram: Uint32Array;
  /** Null where nothing is dark enough to be ink. */
  readonly automatic: Levels | null;
}

/** @param paper of the same photo and settings but for the crop, where it is known already */
export function preparedSheet(
  photo: SheetPhoto,
  settings: LiftSettings,
  paper: SheetPaper = sheetPaper(photo, settings),
): PreparedSheet {
  const view = sheetView(photo.pixels, settings);
  const pixels = viewPixels(photo.pixels, view);
  const place = { field: paper.field, outside: paper.outside, sheet: view.sheet, crop: view.crop };
  const plane = reflectance(pixels, place, paper.weights);
  const histogram = reflectanceHistogram(plane);
  const automatic = automaticLevels(plane, histogram);
  return { ...paper, view, pixels, plane, histogram, automatic };
}

export interface LiftedInk {
  /** Trimmed to the ink box. */
  readonly coverage: Coverage;
  /** Within the crop, px. */
  readonly inkBox: Box;
  readonly levels: Levels;
  readonly specks: readonly Speck[];
  readonly speckPx2: number;
  readonly pinholePx2: number;
  readonly pinholes: number;
  /** The ink with its colours, the paper unmixed; null where it is one colour. */
  readonly coloured: Raster | null;
}

export const NO_INK = 'No ink was found on the sheet.';

/**
 * @param scale px of this sheet for a px of the full size, below 1 for a reduced copy; lengths in
 * the settings are of the full size
 */
export function liftedInk(
  sheet: PreparedSheet,
  settings: LiftSettings,
  scale = 1,
): Result<LiftedInk> {
  const levels = chosenLevels(sheet, settings);
  if (!levels) return failure(NO_INK);
  const { view } = sheet;
  const { strokes } = settings;
  const rough = coverage(sheet.plane, levels);
  const kept = strokedPixels(strokes, 'keep', view.sheet, view.crop);
  const areas = scale * scale;
  const clean = cleaned(rough, {
    specks: settings.specks === null ? null : settings.specks * areas,
    pinholes: settings.pinholes === null ? null : settings.pinholes * areas,
    kept,
  });
  rubOut(clean.plane.data, strokedPixels(strokes, 'rub', view.sheet, view.crop));
  const shaped = reshaped(clean.plane, settings, scale);
  const inkBox = coverageBox(shaped);
  if (!inkBox) return failure(NO_INK);
  return success({
    coverage: trimmed(shaped, inkBox),
    inkBox,
    levels,
    specks: clean.specks,
    speckPx2: clean.speckPx2 / areas,
    pinholePx2: clean.pinholePx2 / areas,
    pinholes: clean.pinholes,
    coloured: settings.colours === 'keep' ? colouredInk(sheet, levels, shaped, inkBox) : null,
  });
}

/** Picked levels hold; what was not picked is found. */
function chosenLevels(sheet: PreparedSheet, { ink, paper }: LiftSettings): Levels | null {
  const { automatic } = sheet;
  if (!automatic && (ink === null || paper === null)) return null;
  return { ink: ink ?? automatic?.ink ?? 0, paper: paper ?? automatic?.paper ?? 1 };
}

function reshaped(plane: Coverage, { edge, weight }: LiftSettings, scale: number): Coverage {
  const heavy = weight === 0 ? plane : weighted(plane, weight * scale);
  if (edge < 0) return softenedEdges(heavy, -edge);
  return edge > 0 ? crispEdges(heavy, edge) : heavy;
}

/** The tight box of coverage that is visible as alpha. */
function coverageBox({ data, width, height }: Coverage): Box | null {
  let [left, right, top, bottom] = [width, -1, -1, -1];
  for (let y = 0; y < height; y++) {
    for (let x = 0, at = y * width; x < width; x++, at++) {
      if (data[at] < VISIBLE_ALPHA) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (top < 0) top = y;
      bottom = y;
    }
  }
  if (right < 0) return null;
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

function trimmed({ data, width }: Coverage, box: Box): Coverage {
  const out = new Uint8Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = (box.y + y) * width + box.x;
    out.set(data.subarray(from, from + box.width), y * box.width);
  }
  return { data: out, width: box.width, height: box.height };
}

/** Coverage says where ink is; what colour, the picture on white paper with the white unmixed. */
function colouredInk(sheet: PreparedSheet, levels: Levels, shaped: Coverage, box: Box): Raster {
  const place = {
    field: sheet.field,
    outside: sheet.outside,
    sheet: sheet.view.sheet,
    crop: sheet.view.crop,
  };
  const white = onWhitePaper(sheet.pixels, place, levels.paper);
  const free = withoutBackground(white, [255, 255, 255], 'everywhere');
  const data = new Uint8ClampedArray(box.width * box.height * 4);
  for (let y = 0, to = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++, to += 4) {
      const from = (box.y + y) * free.width + box.x + x;
      data.set(free.data.subarray(from * 4, from * 4 + 3), to);
      // Specks and what was rubbed out are gone from the coverage, so they go here too.
      data[to + 3] = shaped.data[from] === 0 ? 0 : free.data[from * 4 + 3];
    }
  }
  return { data, width: box.width, height: box.height, channels: 4 };
}

/** One ink colour: black, the alpha carrying the coverage. */
export function blackInk({ data, width, height }: Coverage): Raster {
  const out = new Uint8ClampedArray(width * height * 4);
  for (let at = 0; at < data.length; at++) out[at * 4 + 3] = data[at];
  return { data: out, width, height, channels: 4 };
}
