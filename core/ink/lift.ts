import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import type { LiftSettings } from '../contract/lift.ts';
import { VISIBLE_ALPHA } from '../mark/inkBox.ts';
import type { Pixels, Raster } from '../pixels.ts';
import type { Box, Size } from '../placement/geometry.ts';
import { failure, success, type Result } from '../result.ts';
import { coverage, crispEdges, softenedEdges, weighted } from './coverage.ts';
import { findSheet, type FoundSheet } from './findSheet.ts';
import { rubOut, strokedPixels } from './handwork.ts';
import { mapped } from './homography.ts';
import { channelWeights, inkColour, type Triple } from './inkColour.ts';
import { automaticLevels, reflectanceHistogram, type Levels } from './levels.ts';
import { LINEAR_CHANNELS, reducedLinear, type LinearImage } from './linearImage.ts';
import { grown } from './mask.ts';
import { FIELD_LONG_SIDE_PX, paperField } from './paperField.ts';
import type { Coverage, Reflectance } from './plane.ts';
import { onWhitePaper, reflectance } from './reflectance.ts';
import {
  fractionsToPhoto,
  sheetView,
  viewLinear,
  viewPixels,
  type SheetView,
} from './sheetView.ts';
import { cleaned, type Speck } from './specks.ts';
import { withoutBackground } from './withoutBackground.ts';

/**
 * Ink on paper → coverage, in three steps that can be shown one by one: the photo is read once
 * (`readSheet`), looked at as the geometry says (`preparedSheet`), and the ink taken from it
 * (`liftedInk`). While a control moves only the steps after it run again.
 */

/** A photo of a sheet, with what is found in it once. */
export interface SheetPhoto {
  readonly pixels: Pixels;
  readonly reduced: LinearImage;
  readonly found: FoundSheet | null;
}

export function readSheet(pixels: Pixels): SheetPhoto {
  const reduced = reducedLinear(pixels, FIELD_LONG_SIDE_PX);
  return { pixels, reduced, found: findSheet(reduced) };
}

/** The sheet's edge is not paper to be trusted: this share of the longer side is left out. */
const SHEET_MARGIN = 0.012;

/** The empty sheet as it is looked at; it does not depend on the crop. */
export interface SheetPaper {
  readonly field: LinearImage;
  /** 1 where the field's pixel is table or beyond the picture. */
  readonly outside: Uint8Array;
  /** How much each channel says about coverage. */
  readonly weights: Triple;
  /** 0 to 1: darkest to brightest part of the empty sheet, 1 is perfectly even light. */
  readonly evenness: number;
}

export function sheetPaper(photo: SheetPhoto, settings: LiftSettings): SheetPaper {
  const view = sheetView(photo.pixels, settings);
  const { image, outside: beyond } = viewLinear(photo.reduced, photo.pixels, view);
  const beside = photo.found ? withTable(beyond, image, photo.found, photo.pixels, view) : beyond;
  const field = paperField(image, beside);
  const isStraightened = settings.corners !== null;
  const hasEdge = photo.found !== null || isStraightened;
  const outside = hasEdge ? withSlivers(beside, image, field, isStraightened) : beside;
  const ink = settings.inkColour ?? inkColour(image, field, outside);
  return { field, outside, weights: channelWeights(ink), evenness: evennessOf(field, outside) };
}

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

/** Marks what the photo shows beside the sheet, and a narrow margin within it. */
function withTable(
  beyond: Uint8Array,
  { width, height }: Size,
  { paper, grid }: FoundSheet,
  photo: Size,
  view: SheetView,
): Uint8Array {
  const map = fractionsToPhoto(photo, view);
  const outside = new Uint8Array(beyond);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const place = mapped(map, { x: (x + 0.5) / width, y: (y + 0.5) / height });
      const column = Math.min(Math.max(Math.floor(place.x * grid.width), 0), grid.width - 1);
      const row = Math.min(Math.max(Math.floor(place.y * grid.height), 0), grid.height - 1);
      if (!paper[row * grid.width + column]) outside[at] = 1;
    }
  }
  return grown(outside, width, Math.max(1, Math.round(Math.max(width, height) * SHEET_MARGIN)));
}

/** How far from the edge of the sheet a sliver of table may reach, as a share of the longer side … */
const SLIVER_REACH = 0.03;
/** … and how dark it is in relation to the sheet. */
const SLIVER_DARK = 0.7;

/**
 * Where the sheet curls, table looks in from the edge: dark, and hanging together with outside.
 *
 * @param isStraightened the view ends where the sheet does, so its rim counts as outside, too
 */
function withSlivers(
  outside: Uint8Array,
  image: LinearImage,
  field: LinearImage,
  isStraightened: boolean,
): Uint8Array {
  const { width, height } = image;
  const reach = Math.max(2, Math.round(Math.max(width, height) * SLIVER_REACH));
  const edge = new Uint8Array(outside);
  if (isStraightened) {
    for (let x = 0; x < width; x++) edge[x] = edge[(height - 1) * width + x] = 1;
    for (let y = 0; y < height; y++) edge[y * width] = edge[y * width + width - 1] = 1;
  }
  const near = grown(edge, width, reach);
  const result = new Uint8Array(edge);
  const stack: number[] = [];
  edge.forEach((flag, at) => {
    if (flag) stack.push(at);
  });
  const isDark = (at: number): boolean => {
    const green = at * LINEAR_CHANNELS + 1;
    return image.data[green] < field.data[green] * SLIVER_DARK;
  };
  for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
    const x = at % width;
    const around = [
      x > 0 ? at - 1 : -1,
      x + 1 < width ? at + 1 : -1,
      at - width,
      at + width < result.length ? at + width : -1,
    ];
    for (const next of around) {
      if (next < 0 || result[next] || !near[next] || !isDark(next)) continue;
      result[next] = 1;
      stack.push(next);
    }
  }
  return result;
}

/** Quantiles instead of extremes, so that one dark corner does not speak for the sheet. */
const DARK_QUANTILE = 0.03;

function evennessOf({ data }: LinearImage, outside: Uint8Array): number {
  const EACH = 5;
  const light = new Float32Array(Math.ceil(outside.length / EACH));
  let count = 0;
  for (let index = 0; index < outside.length; index += EACH) {
    if (outside[index]) continue;
    const at = index * LINEAR_CHANNELS;
    light[count++] =
      data[at] * LUMINANCE_WEIGHTS[0] +
      data[at + 1] * LUMINANCE_WEIGHTS[1] +
      data[at + 2] * LUMINANCE_WEIGHTS[2];
  }
  const sorted = light.subarray(0, count).sort();
  const at = (share: number): number => sorted[Math.round((count - 1) * share)] ?? 1;
  return at(1 - DARK_QUANTILE) > 0 ? at(DARK_QUANTILE) / at(1 - DARK_QUANTILE) : 1;
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
