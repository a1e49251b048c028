import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import { filledGaps } from './filledGaps.ts';
import { markInkAreas } from './inkAreas.ts';
import { grown, shrunk } from './mask.ts';
import { LINEAR_CHANNELS, luminanceOf, type LinearImage } from './linearImage.ts';
import { closed } from './slidingExtreme.ts';

/**
 * The empty sheet: its colour at every pixel as if nothing had been written on it. Where paper is
 * seen the field follows it, so light that falls off, shadows and folds stay in the field; under ink
 * it is filled in smoothly from all around.
 */

/** Longer side at which the field is estimated, px. Paper has no finer detail worth following. */
export const FIELD_LONG_SIDE_PX = 480;

/**
 * Strokes up to twice this share of the longer side are bridged at the first look. Little enough
 * that the paper between two strokes in a shadow's edge is not taken for ink.
 */
const STROKE_SHARE = 0.018;
/** Wider areas of ink, such as those of a logo; only what is much darker is taken for one. */
const AREA_SHARE = 0.08;
/** A pixel this much darker than the bridged surface is ink at the first look. */
const STROKE_INK = 0.85;
const AREA_INK = 0.45;
/**
 * Darker than this share of the sheet's broad brightness is ink however wide it is; deep shadow leaves
 * more.
 */
const SURELY_INK = 0.13;
/** At the second look, against a field that is nearly right. */
const SECOND_INK = 0.93;
/** Ink is grown by this before the paper beside it is trusted, px of the field. */
const GROWN_PX = 1;
/** Seen larger, the soft rim of a stroke is wider. */
const CLOSE_GROWN_PX = 2;
/** Darker than this is no grain. */
const CLOSE_INK = 0.85;
/** Bridging strokes moves a slanted or bent edge of light by as much, px. */
const EDGE_PX = 1.6;
const DARKEST = 1e-4;
const LOOKS = 2;
/** Half of the width below which areas of ink count as strokes, px of the field. */
const NARROW_PX = 3;

export interface PaperField {
  readonly field: LinearImage;
  /** Brightness with strokes bridged, and 1 where wide areas of ink lie: what the field came of. */
  readonly surface: Float32Array;
  readonly areas: Uint8Array;
}

/** @param outside 1 where a pixel is not of the sheet (the table, beyond the picture) */
export function paperField(sheet: LinearImage, outside: Uint8Array): PaperField {
  const { width, height } = sheet;
  const light = luminanceOf(sheet, LUMINANCE_WEIGHTS);
  const radius = (share: number): number => radiusOf(share, Math.max(width, height));
  const plain = softened(withoutOutside(light, outside, width), width);
  const surface = closed(plain, width, radius(STROKE_SHARE));
  const wide = closed(plain, width, radius(AREA_SHARE));
  const broad = median(surface, outside);
  const areas = new Uint8Array(light.length);
  for (let at = 0; at < areas.length; at++) {
    areas[at] = light[at] < wide[at] * AREA_INK || light[at] < broad * SURELY_INK ? 1 : 0;
  }
  // With strokes bridged: they must not cut a shadow into islands.
  markInkAreas(surface, areas, outside, width);
  const ink = darkerThan(light, surface, STROKE_INK);
  areas.forEach((flag, at) => (ink[at] ||= flag));
  // What is narrow may be a part of a shadow's edge as well.
  const wideAreas = grown(shrunk(areas, width, NARROW_PX), width, NARROW_PX);
  const field = lookedAgain(sheet, light, { ink, surely: broad * SURELY_INK, outside });
  return { field, surface, areas: wideAreas };
}

/**
 * The field of a part of the sheet seen larger, for what changes within few pixels: the edge of a hard
 * shadow.
 *
 * @param areas 1 where wide areas of ink lie, which the part is too small to show
 * @param longSide of the whole sheet at this size, px
 */
export function closeField(
  part: LinearImage,
  outside: Uint8Array,
  areas: Uint8Array,
  longSide: number,
): LinearImage {
  const { width, height } = part;
  const light = luminanceOf(part, LUMINANCE_WEIGHTS);
  const soft = softened(light, width);
  const plain = withoutOutside(soft, outside, width);
  const surface = closed(plain, width, radiusOf(STROKE_SHARE, longSide));
  const steps = steepness(surface, width);
  const ink = new Uint8Array(areas);
  for (let at = 0; at < ink.length; at++) {
    const most = surface[at] * Math.exp(-steps[at] * EDGE_PX);
    if (soft[at] < most * SECOND_INK || light[at] < most * CLOSE_INK) ink[at] = 1;
  }
  const bare = Float32Array.from(bareOf(grown(ink, width, CLOSE_GROWN_PX), outside));
  const data = new Float32Array(part.data.length);
  channelsOf(part).forEach((plane, channel) => {
    // Bare paper is what it is: averaged, it would not be as steep.
    const filled = filledGaps(plane, bare, width);
    for (let at = 0; at < filled.length; at++) data[at * LINEAR_CHANNELS + channel] = filled[at];
  });
  return { data, width, height };
}

/** How quickly brightness changes at each pixel, as a natural logarithm a pixel. */
export function steepness(plane: Float32Array, width: number): Float32Array {
  const logs = plane.map((value) => Math.log(Math.max(value, DARKEST)));
  const out = new Float32Array(plane.length);
  for (let at = width; at < out.length - width; at++) {
    const x = at % width;
    if (x === 0 || x === width - 1) continue;
    out[at] = Math.hypot(logs[at + 1] - logs[at - 1], logs[at + width] - logs[at - width]) / 2;
  }
  return out;
}

function radiusOf(share: number, longSide: number): number {
  return Math.max(2, Math.round(longSide * share));
}

interface FirstLook {
  readonly ink: Uint8Array;
  /** Darker than this is ink, whatever surrounds it. */
  readonly surely: number;
  readonly outside: Uint8Array;
}

/** Where the paper is known, it tells better where there is ink than at the first look. */
function lookedAgain(
  sheet: LinearImage,
  light: Float32Array,
  { ink: first, surely, outside }: FirstLook,
): LinearImage {
  const { width, height } = sheet;
  let ink = first;
  for (let look = 0; look < LOOKS; look++) {
    const [paper] = filledOver([light], bareOf(grown(ink, width, GROWN_PX), outside), width);
    ink = darkerThan(light, paper, SECOND_INK);
    for (let at = 0; at < ink.length; at++) if (light[at] < surely) ink[at] = 1;
  }
  const bare = bareOf(grown(ink, width, GROWN_PX), outside);
  const data = new Float32Array(sheet.data.length);
  filledOver(channelsOf(sheet), bare, width).forEach((plane, channel) => {
    for (let at = 0; at < plane.length; at++) data[at * LINEAR_CHANNELS + channel] = plane[at];
  });
  return { data, width, height };
}

function darkerThan(light: Float32Array, paper: Float32Array, share: number): Uint8Array {
  const ink = new Uint8Array(light.length);
  for (let at = 0; at < ink.length; at++) ink[at] = light[at] < paper[at] * share ? 1 : 0;
  return ink;
}

/** The table is as good as unknown: the sheet's own light is carried on over it. */
function withoutOutside(light: Float32Array, outside: Uint8Array, width: number): Float32Array {
  if (!outside.includes(1)) return light;
  return filledGaps(
    light,
    Float32Array.from(outside, (flag) => 1 - flag),
    width,
  );
}

function bareOf(ink: Uint8Array, outside: Uint8Array): Uint8Array {
  return ink.map((flag, at) => (flag || outside[at] ? 0 : 1));
}

/** Of each known place at least this share of what surrounds it must be known, too. */
const LEAST_KNOWN = 0.05;

/** Grain is averaged away where paper is seen, without letting ink in: blurred by bare paper only. */
function filledOver(planes: Float32Array[], bare: Uint8Array, width: number): Float32Array[] {
  const totals = softened(softened(Float32Array.from(bare), width), width);
  const known = new Float32Array(bare.length);
  for (let at = 0; at < known.length; at++) {
    known[at] = bare[at] && totals[at] > LEAST_KNOWN ? 1 : 0;
  }
  return planes.map((plane) => {
    const weighted = new Float32Array(plane.length);
    for (let at = 0; at < plane.length; at++) weighted[at] = bare[at] ? plane[at] : 0;
    const values = softened(softened(weighted, width), width);
    for (let at = 0; at < values.length; at++) if (known[at]) values[at] /= totals[at];
    return filledGaps(values, known, width);
  });
}

function channelsOf({ data }: LinearImage): Float32Array[] {
  return [0, 1, 2].map((channel) => {
    const plane = new Float32Array(data.length / LINEAR_CHANNELS);
    for (let at = 0; at < plane.length; at++) plane[at] = data[at * LINEAR_CHANNELS + channel];
    return plane;
  });
}

/** A binomial blur, 1 2 1 both ways. */
function softened(plane: Float32Array, width: number): Float32Array {
  const height = plane.length / width;
  const across = new Float32Array(plane.length);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const before = x > 0 ? plane[at - 1] : plane[at];
      const after = x + 1 < width ? plane[at + 1] : plane[at];
      across[at] = (before + 2 * plane[at] + after) / 4;
    }
  }
  const out = new Float32Array(plane.length);
  for (let at = 0; at < out.length; at++) {
    const above = at >= width ? across[at - width] : across[at];
    const below = at + width < out.length ? across[at + width] : across[at];
    out[at] = (above + 2 * across[at] + below) / 4;
  }
  return out;
}

/** Of the pixels of the sheet; enough of them are looked at to be sure. */
function median(plane: Float32Array, outside: Uint8Array): number {
  const STEP = 7;
  const values: number[] = [];
  for (let at = 0; at < plane.length; at += STEP) if (!outside[at]) values.push(plane[at]);
  values.sort((a, b) => a - b);
  return values[values.length >> 1] ?? 1;
}
