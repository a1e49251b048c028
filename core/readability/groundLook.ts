import { radians, type Box, type Size } from '../placement/geometry.ts';
import type { Copy } from '../placement/placeMark.ts';
import { BARE_GROUND, type BlendedLightness, type SeenGround } from './blendedLightness.ts';
import { POINT_NUMBERS, type InkPoints } from './inkPoints.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';
import { LEAST_DEVIATIONS, LEAST_DIFFERENCE, reachOf, WORKING_LONG_SIDE_PX } from './measure.ts';

/**
 * A fast answer to "can it be read here?", from the light map alone: for use while something moves.
 * The mark is a few dozen points where it has ink; each is compared with the cells round it as the
 * measure compares each pixel with its window.
 */

/** Of many copies no more than this are looked at: the best of a spread is close to the best. */
const MOST_COPIES = 9;

/**
 * Looks at the ground under a placement. It keeps its numbers in arrays of its own, so that a batch
 * is gone through without making an object for each photo.
 */
export class GroundLook {
  /** By tone: share of the ink that probably reads, 0 to 1; −1 where none lies on the photo. */
  readonly shares: Float64Array;
  /** By tone: mean difference between ink and ground, L*. */
  readonly contrasts: Float64Array;
  /** Mean L* of the ground under the first copy, and its mean standard deviation. */
  lightness = 0;
  bustle = 0;
  private readonly reads: Float64Array;
  private readonly apart: Float64Array;

  constructor(tones: number) {
    this.shares = new Float64Array(tones);
    this.contrasts = new Float64Array(tones);
    this.reads = new Float64Array(tones);
    this.apart = new Float64Array(tones);
  }

  /**
   * @param frame the output frame of the copies
   * @param tones at most as many as it was made for
   */
  look(
    map: LightMap,
    frame: Size,
    copies: readonly Copy[],
    points: InkPoints,
    tones: readonly BlendedLightness[],
    ground: SeenGround = BARE_GROUND,
  ): void {
    this.shares.fill(-1);
    this.contrasts.fill(0);
    const step = Math.max(1, copies.length / MOST_COPIES);
    for (let at = 0; at < copies.length; at += step) {
      const isFirst = at === 0;
      this.lookAt(map, frame, copies[Math.floor(at)], points, tones, ground, isFirst);
    }
  }

  private lookAt(
    map: LightMap,
    frame: Size,
    { box, size, rotation }: Copy,
    points: InkPoints,
    tones: readonly BlendedLightness[],
    ground: SeenGround,
    isFirst: boolean,
  ): void {
    const { reads, apart, shares, contrasts } = this;
    const { cells, width, height } = map;
    const { values } = points;
    const seenAs = ground.lightness;
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
    reads.fill(0);
    apart.fill(0);
    let seen = 0;
    let lightnesses = 0;
    let deviations = 0;
    for (let at = 0; at < values.length; at += POINT_NUMBERS) {
      const alongX = values[at] * size.width;
      const alongY = values[at + 1] * size.height;
      const x = (centreX + alongX * cos - alongY * sin) * cellX;
      const y = (centreY + alongX * sin + alongY * cos) * cellY;
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const weight = values[at + 2];
      seen += weight;
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
      const within = (spreads / count) * SPREAD_SCALE * ground.spread * ground.spread;
      const deviation = Math.sqrt(Math.max(0, squares / count - mean * mean) + within);
      lightnesses += weight * mean;
      deviations += weight * deviation;
      const needed = Math.max(LEAST_DIFFERENCE, LEAST_DEVIATIONS * deviation);
      const own = cells[((y | 0) * width + (x | 0)) * 2];
      const under = (seenAs[own] * BYTES_PER_LIGHTNESS + 0.5) | 0;
      for (let tone = 0; tone < tones.length; tone++) {
        const whole = Math.abs(tones[tone].whole[under] - mean);
        apart[tone] += weight * whole;
        if (whole >= needed) reads[tone] += weight * (1 - edge);
        if (Math.abs(tones[tone].edge[under] - mean) >= needed) reads[tone] += weight * edge;
      }
    }
    if (seen === 0) return;
    for (let tone = 0; tone < tones.length; tone++) {
      const share = reads[tone] / seen;
      if (share < shares[tone]) continue;
      shares[tone] = share;
      contrasts[tone] = apart[tone] / seen;
    }
    if (!isFirst) return;
    this.lightness = lightnesses / seen;
    this.bustle = deviations / seen;
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
