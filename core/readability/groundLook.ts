import { radians, type Box, type Size } from '../placement/geometry.ts';
import type { Copy } from '../placement/placeMark.ts';
import { BARE_GROUND, type SeenGround } from './blendedLightness.ts';
import { POINT, POINT_NUMBERS, type InkPoints } from './inkPoints.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';
import { CLEAR_SHARE, reachOf, WORKING_LONG_SIDE_PX } from './measure.ts';
import { LEAST_DEVIATIONS, LEAST_DIFFERENCE } from './measureRows.ts';

/**
 * A fast answer to "can it be read here?", from the light map alone: for use while something moves.
 * The mark is a few dozen points where it has ink; each is compared with the cells round it as the
 * measure compares each pixel with its window.
 */

/** Of many copies no more than this are looked at: the best of a spread is close to the best. */
const MOST_COPIES = 9;

/** Of the ink that lies on the photo: where more of it does not read, the mark is not clear. */
const MOST_UNREAD = 1 - CLEAR_SHARE + 1e-9;

/** Copies and points that room is made for at first. */
const FIRST_POINTS = 512;

/**
 * Looks at the ground under a placement, then reads inks on it. It keeps its numbers in arrays of its own,
 * so that a batch is gone through without making an object for each photo; the ground is looked at once for
 * all tones and opacities.
 */
export class GroundLook {
  /** Of the ink that was read last: the share that probably reads, 0 to 1; −1 where none lies on the photo. */
  share = -1;
  /** Mean difference between that ink and the ground, L*. */
  contrast = 0;
  /** Share that reads of the part of the mark that reads worst. */
  weakest = 0;
  /** Mean L* of the ground under the first copy, and its mean standard deviation. */
  lightness = 0;
  bustle = 0;

  // Of each point that lies on the photo, copy after copy: they are read many times for one look.
  private mean = new Float64Array(FIRST_POINTS);
  private needed = new Float64Array(FIRST_POINTS);
  private weight = new Float64Array(FIRST_POINTS);
  /** Of its weight, what lies on the edge of the ink. */
  private edge = new Float64Array(FIRST_POINTS);
  private part = new Uint16Array(FIRST_POINTS);
  /** Byte of the lightness under it, and how much lighter than round it that is, L*. */
  private under = new Uint8Array(FIRST_POINTS);
  private bare = new Float64Array(FIRST_POINTS);
  private count = 0;
  /** Where the points of each copy end, and what they weigh together. */
  private readonly ends = new Uint32Array(MOST_COPIES);
  private readonly weights = new Float64Array(MOST_COPIES);
  private copies = 0;
  private values: InkPoints['values'] = new Float32Array(0);

  /** @param frame the output frame of the copies */
  look(
    map: LightMap,
    frame: Size,
    copies: readonly Copy[],
    points: InkPoints,
    ground: SeenGround = BARE_GROUND,
  ): void {
    this.values = points.values;
    this.count = 0;
    this.copies = 0;
    this.makeRoom(MOST_COPIES * (points.values.length / POINT_NUMBERS));
    const step = Math.max(1, copies.length / MOST_COPIES);
    for (let at = 0; at < copies.length && this.copies < MOST_COPIES; at += step) {
      const copy = copies[Math.floor(at)];
      this.weights[this.copies] = this.lookAt(map, frame, copy, ground, at === 0);
      this.ends[this.copies++] = this.count;
    }
  }

  /**
   * How an ink reads on the ground that was looked at, in the copy that reads best.
   *
   * @param ink as `blendedLightness` has it
   * @param untilUnclear of one that is not clear no more is wanted: its numbers then are those of the points
   *   up to where that was known
   */
  read(ink: Float32Array, untilUnclear = false): void {
    this.share = -1;
    this.contrast = 0;
    this.weakest = 0;
    let at = 0;
    for (let copy = 0; copy < this.copies; copy++) {
      const end = this.ends[copy];
      const most = untilUnclear ? MOST_UNREAD * this.weights[copy] : Infinity;
      if (end > at) this.readCopy(ink, at, end, most);
      at = end;
    }
  }

  /** @param most weight that may go unread before the rest does not matter */
  private readCopy(ink: Float32Array, begin: number, end: number, most: number): void {
    const { mean, needed, weight, edge, part, under, bare } = this;
    let seen = 0;
    let reads = 0;
    let apart = 0;
    // Of the part that is gone through: the points of each lie together.
    let current = part[begin];
    let partSeen = 0;
    let partReads = 0;
    let weakest = 1;
    for (let at = begin; at < end && seen - reads <= most; at++) {
      if (part[at] !== current) {
        weakest = Math.min(weakest, partReads / partSeen);
        partSeen = 0;
        partReads = 0;
        current = part[at];
      }
      const enough = needed[at];
      const own = weight[at];
      const lighter = ink[under[at]] - mean[at];
      const difference = Math.abs(lighter);
      // On its edge the ink covers pixels from half of them on, which comes midway between bare and covered.
      const half = (difference + (lighter < 0 ? -bare[at] : bare[at])) / 2;
      const lower = half < difference ? half : difference;
      const upper = half < difference ? difference : half;
      let read = lower >= enough ? own : 0;
      if (lower < enough && upper >= enough) {
        read = (edge[at] * (upper - enough)) / (upper - lower);
        if (difference >= enough) read += own - edge[at];
      }
      apart += own * difference;
      seen += own;
      reads += read;
      partSeen += own;
      partReads += read;
    }
    const share = reads / seen;
    if (share < this.share) return;
    this.share = share;
    this.contrast = apart / seen;
    this.weakest = Math.min(weakest, partReads / partSeen);
  }

  private makeRoom(points: number): void {
    if (this.mean.length >= points) return;
    this.mean = new Float64Array(points);
    this.needed = new Float64Array(points);
    this.weight = new Float64Array(points);
    this.edge = new Float64Array(points);
    this.part = new Uint16Array(points);
    this.under = new Uint8Array(points);
    this.bare = new Float64Array(points);
  }

  /** @returns what the points weigh that lie on the photo */
  private lookAt(
    map: LightMap,
    frame: Size,
    { box, size, rotation }: Copy,
    ground: SeenGround,
    isFirst: boolean,
  ): number {
    const { values, mean: means, needed, weight: weights, edge, part, under, bare } = this;
    const { cells, width, height } = map;
    const seenAs = ground.lightness;
    const spreadScale = SPREAD_SCALE * ground.spread * ground.spread;
    const cellX = width / frame.width;
    const cellY = height / frame.height;
    const reachX = Math.max(0.5, windowOf(box, frame) * cellX);
    const reachY = Math.max(0.5, windowOf(box, frame) * cellY);
    const workingWidth = Math.max(size.width * workingFactor(frame), 1e-6);
    const centreX = box.x + box.width / 2;
    const centreY = box.y + box.height / 2;
    const cos = Math.cos(radians(rotation));
    const sin = Math.sin(radians(rotation));
    let seen = 0;
    let lightnesses = 0;
    let deviations = 0;
    let to = this.count;
    for (let at = 0; at < values.length; at += POINT_NUMBERS) {
      const alongX = values[at + POINT.x] * size.width;
      const alongY = values[at + POINT.y] * size.height;
      const x = (centreX + alongX * cos - alongY * sin) * cellX;
      const y = (centreY + alongX * sin + alongY * cos) * cellY;
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      // Cutting off what is behind the point is Math.floor for what is above zero, and faster.
      const left = x > reachX ? (x - reachX) | 0 : 0;
      const right = Math.min(width - 1, (x + reachX) | 0);
      const top = y > reachY ? (y - reachY) | 0 : 0;
      const bottom = Math.min(height - 1, (y + reachY) | 0);
      let sum = 0;
      let squares = 0;
      let spreads = 0;
      for (let row = top; row <= bottom; row++) {
        const end = (row * width + right) * 2;
        for (let cell = (row * width + left) * 2; cell <= end; cell += 2) {
          const mean = seenAs[cells[cell]];
          const spread = cells[cell + 1];
          sum += mean;
          squares += mean * mean;
          spreads += spread * spread;
        }
      }
      const count = (right - left + 1) * (bottom - top + 1);
      const mean = sum / count;
      const within = (spreads / count) * spreadScale;
      const deviation = Math.sqrt(Math.max(0, squares / count - mean * mean) + within);
      const weight = values[at + POINT.weight];
      seen += weight;
      lightnesses += weight * mean;
      deviations += weight * deviation;
      const own = seenAs[cells[((y | 0) * width + (x | 0)) * 2]];
      means[to] = mean;
      needed[to] = Math.max(LEAST_DIFFERENCE, LEAST_DEVIATIONS * deviation);
      under[to] = (own * BYTES_PER_LIGHTNESS + 0.5) | 0;
      bare[to] = own - mean;
      weights[to] = weight;
      edge[to] = weight * Math.min(1, values[at + POINT.edge] / workingWidth);
      part[to] = values[at + POINT.part];
      to++;
    }
    this.count = to;
    if (isFirst && seen > 0) {
      this.lightness = lightnesses / seen;
      this.bustle = deviations / seen;
    }
    return seen;
  }
}

/** Squares of bytes as squares of L*. */
const SPREAD_SCALE = 1 / BYTES_PER_LIGHTNESS ** 2;

/** How far round a point its ground is looked at, px of the frame. */
function windowOf(box: Box, frame: Size): number {
  const factor = workingFactor(frame);
  return reachOf({ width: box.width * factor, height: box.height * factor }) / factor;
}

function workingFactor({ width, height }: Size): number {
  return Math.min(1, WORKING_LONG_SIDE_PX / Math.max(width, height));
}
