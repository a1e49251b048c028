import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import type { LiftSettings } from '../contract/lift.ts';
import type { Pixels } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';
import { findSheet, type FoundSheet } from './findSheet.ts';
import { mapped } from './homography.ts';
import { channelWeights, inkColour, type Triple } from './inkColour.ts';
import { LINEAR_CHANNELS, reducedLinear, type LinearImage } from './linearImage.ts';
import { grown } from './mask.ts';
import { CLOSE_LONG_SIDE_PX, hardEdges, withHardEdges, type CloseSheet } from './hardShadows.ts';
import { FIELD_LONG_SIDE_PX, paperField } from './paperField.ts';
import {
  fractionsToPhoto,
  linearSize,
  sheetView,
  viewLinear,
  type SheetView,
} from './sheetView.ts';

/** A photo of a sheet, with what is found in it once. */
export interface SheetPhoto {
  readonly pixels: Pixels;
  readonly reduced: LinearImage;
  /** Seen larger, for the edges of hard shadows; made when it is first asked for. */
  readonly close: () => LinearImage;
  readonly found: FoundSheet | null;
}

export function readSheet(pixels: Pixels): SheetPhoto {
  const reduced = reducedLinear(pixels, FIELD_LONG_SIDE_PX);
  let large: LinearImage | null = null;
  const close = (): LinearImage => (large ??= reducedLinear(pixels, CLOSE_LONG_SIDE_PX));
  return { pixels, reduced, close, found: findSheet(reduced) };
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
  const found = settings.sheet === 'whole' ? null : photo.found;
  const beside = found ? withTable(beyond, image, found, photo.pixels, view) : beyond;
  const paper = paperField(image, beside);
  const { field } = paper;
  const isStraightened = settings.corners !== null;
  const hasEdge = found !== null || isStraightened;
  const outside = hasEdge ? withSlivers(beside, image, field, isStraightened) : beside;
  const ink = settings.inkColour ?? inkColour(image, field, outside);
  const edges = hardEdges(paper, outside, image.width);
  return {
    ...(edges ? withHardEdges(paper, edges, outside, closeSheet(photo, view)) : { field, outside }),
    weights: channelWeights(ink),
    evenness: evennessOf(field, outside),
  };
}

function closeSheet({ pixels, close }: SheetPhoto, view: SheetView): CloseSheet {
  return {
    size: linearSize(close(), pixels, view),
    part: (box) => viewLinear(close(), pixels, view, box).image,
  };
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
