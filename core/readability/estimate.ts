import { rgbOf } from '../colour/hex.ts';
import type { Coverage } from '../ink/plane.ts';
import { FULL } from '../ink/plane.ts';
import { radians, type Box, type Size } from '../placement/geometry.ts';
import type { Copy } from '../placement/placeMark.ts';
import { lightness } from './lightness.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';
import { LEAST_DEVIATIONS, LEAST_DIFFERENCE, reachOf, WORKING_LONG_SIDE_PX } from './measure.ts';

/**
 * A fast answer to "can it be read here?", from the light map alone: for use while something moves.
 * The mark is a few dozen points where it has ink; each is compared with the cells round it as the
 * measure compares each pixel with its window.
 */

/** Where a mark has ink: points in shares of its ink box, each with its share of all ink. */
export interface InkPoints {
  /** x, y from −0.5 to 0.5 about the middle, and weight, one after the other. */
  readonly values: Float32Array;
  /** Px of the ink's edge for each px of ink, where the ink box is 1 px wide. */
  readonly edge: number;
}

/** Points along the longer side of the ink box. */
const POINTS_LONG_SIDE = 16;
/** Parts of a mark with less ink than this share of what they could hold count for nothing. */
const LEAST_INK = 0.02;
/** Numbers a point has. */
const POINT_NUMBERS = 3;

/** @param core coverage of the mark in its ink box, any size */
export function inkPoints({ data, width, height }: Coverage): InkPoints {
  const longer = Math.max(width, height);
  const columns = Math.max(1, Math.round((POINTS_LONG_SIDE * width) / longer));
  const rows = Math.max(1, Math.round((POINTS_LONG_SIDE * height) / longer));
  const ink = new Float64Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const row = Math.floor((y * rows) / height) * columns;
    for (let x = 0; x < width; x++) {
      ink[row + Math.floor((x * columns) / width)] += data[y * width + x] / FULL;
    }
  }
  const full = (width * height) / (columns * rows);
  const total = ink.reduce((sum, value) => sum + value, 0) || 1;
  const values: number[] = [];
  ink.forEach((value, at) => {
    if (value < full * LEAST_INK) return;
    values.push(((at % columns) + 0.5) / columns - 0.5);
    values.push((Math.floor(at / columns) + 0.5) / rows - 0.5);
    values.push(value / total);
  });
  return { values: Float32Array.from(values), edge: edgeOf(data, width) };
}

/** Coverage that a pixel on the edge has on average, of those that count as ink. */
const EDGE_COVERAGE = 0.75;

/** How much of the ink lies on its edge, which covers less: the thinner the strokes, the more. */
function edgeOf(data: Uint8Array, width: number): number {
  let ink = 0;
  let edge = 0;
  for (const coverage of data) {
    if (coverage < FULL / 2) continue;
    ink++;
    if (coverage < FULL * WHOLE_COVERAGE) edge++;
  }
  return ink > 0 ? (edge / ink) * width : 0;
}

/** From here on a pixel is as good as covered. */
const WHOLE_COVERAGE = 0.97;

/** L* of a mark's colour laid over a grey ground, by the byte of the ground's L* in a light map. */
export interface BlendedLightness {
  readonly whole: Float32Array;
  /** The same where the ink covers a pixel in part. */
  readonly edge: Float32Array;
}

const BYTES = 256;
/** L* of each grey, to find the grey of a lightness. */
const GREYS = Float32Array.from({ length: BYTES }, (_, grey) => lightness(grey, grey, grey));

/**
 * @param colour `#rrggbb`
 * @param opacity 0 to 1
 */
export function blendedLightness(colour: string, opacity: number): BlendedLightness {
  return { whole: blendedAt(colour, opacity), edge: blendedAt(colour, opacity * EDGE_COVERAGE) };
}

function blendedAt(colour: string, opacity: number): Float32Array {
  const [red, green, blue] = rgbOf(colour);
  let grey = 0;
  return Float32Array.from({ length: BYTES }, (_, byte) => {
    const ground = byte / BYTES_PER_LIGHTNESS;
    while (grey < BYTES - 1 && GREYS[grey] < ground) grey++;
    const mixed = [red, green, blue].map((value) =>
      Math.round(grey * (1 - opacity) + value * opacity),
    );
    return lightness(mixed[0], mixed[1], mixed[2]);
  });
}

/**
 * Share of a copy's ink that probably reads, 0 to 1; −1 where nothing of it lies on the photo.
 *
 * @param frame the output frame of the copy
 */
export function estimatedShare(
  map: LightMap,
  frame: Size,
  { box, size, rotation }: Copy,
  points: InkPoints,
  blended: BlendedLightness,
): number {
  const { cells, width, height } = map;
  const { values } = points;
  const cellX = width / frame.width;
  const cellY = height / frame.height;
  const reachX = Math.max(0.5, windowOf(box, frame) * cellX);
  const reachY = Math.max(0.5, windowOf(box, frame) * cellY);
  const workingWidth = size.width * workingFactor(frame);
  const edge = Math.min(1, points.edge / Math.max(workingWidth, 1e-6));
  const centreX = box.x + box.width / 2;
  const centreY = box.y + box.height / 2;
  const cos = Math.cos(radians(rotation));
  const sin = Math.sin(radians(rotation));
  let reads = 0;
  let seen = 0;
  for (let at = 0; at < values.length; at += POINT_NUMBERS) {
    const alongX = values[at] * size.width;
    const alongY = values[at + 1] * size.height;
    const x = (centreX + alongX * cos - alongY * sin) * cellX;
    const y = (centreY + alongX * sin + alongY * cos) * cellY;
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    const weight = values[at + 2];
    seen += weight;
    const left = Math.max(0, Math.floor(x - reachX));
    const right = Math.min(width - 1, Math.floor(x + reachX));
    const top = Math.max(0, Math.floor(y - reachY));
    const bottom = Math.min(height - 1, Math.floor(y + reachY));
    let sum = 0;
    let squares = 0;
    for (let row = top; row <= bottom; row++) {
      for (let cell = (row * width + left) * 2; cell <= (row * width + right) * 2; cell += 2) {
        const mean = cells[cell];
        const spread = cells[cell + 1];
        sum += mean;
        squares += mean * mean + spread * spread;
      }
    }
    const count = (right - left + 1) * (bottom - top + 1);
    const mean = sum / count;
    const deviation = Math.sqrt(Math.max(0, squares / count - mean * mean)) / BYTES_PER_LIGHTNESS;
    const own = cells[(Math.floor(y) * width + Math.floor(x)) * 2];
    const needed = Math.max(LEAST_DIFFERENCE, LEAST_DEVIATIONS * deviation);
    const ground = mean / BYTES_PER_LIGHTNESS;
    if (Math.abs(blended.whole[own] - ground) >= needed) reads += weight * (1 - edge);
    if (Math.abs(blended.edge[own] - ground) >= needed) reads += weight * edge;
  }
  return seen > 0 ? reads / seen : -1;
}

/** How far round a point its ground is looked at, px of the frame. */
function windowOf(box: Box, frame: Size): number {
  const factor = workingFactor(frame);
  return reachOf({ width: box.width * factor, height: box.height * factor }) / factor;
}

function workingFactor({ width, height }: Size): number {
  return Math.min(1, WORKING_LONG_SIDE_PX / Math.max(width, height));
}
