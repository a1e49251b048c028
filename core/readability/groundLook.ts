import { BARE_GROUND, type SeenGround } from './blendedLightness.ts';
import { BYTES_A_CELL, BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';
import { CLEAR_SHARE } from './measure.ts';
import { LEAST_DEVIATIONS, LEAST_DIFFERENCE } from './measureRows.ts';
import { PointWindows } from './pointWindows.ts';

/**
 * A fast answer to "can it be read here?", from the light map alone: for use while something moves.
 * The mark is a few dozen points where it has ink; each is compared with the cells round it as the
 * measure compares each pixel with its window.
 */

/** Of the ink that lies on the photo: where more of it does not read, the mark is not clear. */
const MOST_UNREAD = 1 - CLEAR_SHARE + 1e-9;

/** Points that room is made for at first. */
const FIRST_POINTS = 512;

const NOWHERE = new PointWindows();

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
  /** Mean L* of the ground under the first copy that lies on the photo, and its mean standard deviation; 0: none. */
  lightness = 0;
  bustle = 0;

  private windows = NOWHERE;
  // Of each of its points: they are read many times for one look.
  private mean = new Float64Array(FIRST_POINTS);
  private needed = new Float64Array(FIRST_POINTS);
  /** Byte of the lightness under it, and how much lighter than round it that is, L*. */
  private under = new Uint8Array(FIRST_POINTS);
  private bare = new Float64Array(FIRST_POINTS);

  /** @param windows for maps of that size; not to be laid anew before all has been read */
  look(map: LightMap, windows: PointWindows, ground: SeenGround = BARE_GROUND): void {
    this.windows = windows;
    const { count, weight, own, first, across, down } = windows;
    this.makeRoom(count);
    const { mean: means, needed, under, bare } = this;
    const { cells } = map;
    const rowBytes = map.width * BYTES_A_CELL;
    const seenAs = ground.lightness;
    const spreadScale = SPREAD_SCALE * ground.spread * ground.spread;
    const shown = windows.firstShown;
    const shownEnd = shown < 0 ? 0 : windows.ends[shown];
    let lightnesses = 0;
    let deviations = 0;
    for (let at = 0; at < count; at++) {
      const columns = across[at];
      const rows = down[at];
      let sum = 0;
      let squares = 0;
      let spreads = 0;
      let row = first[at];
      if (columns === 2 && rows === 2) {
        // As it is under most marks: a third of the time that the loops take.
        const below = row + rowBytes;
        const a = seenAs[cells[row]];
        const b = seenAs[cells[row + BYTES_A_CELL]];
        const c = seenAs[cells[below]];
        const d = seenAs[cells[below + BYTES_A_CELL]];
        sum = a + b + c + d;
        squares = a * a + b * b + c * c + d * d;
        spreads =
          squared(cells[row + 1]) +
          squared(cells[row + BYTES_A_CELL + 1]) +
          squared(cells[below + 1]) +
          squared(cells[below + BYTES_A_CELL + 1]);
      } else {
        for (let left = rows; left > 0; left--, row += rowBytes) {
          const end = row + columns * BYTES_A_CELL;
          for (let cell = row; cell < end; cell += BYTES_A_CELL) {
            const mean = seenAs[cells[cell]];
            sum += mean;
            squares += mean * mean;
            spreads += squared(cells[cell + 1]);
          }
        }
      }
      const seen = columns * rows;
      const mean = sum / seen;
      const within = (spreads / seen) * spreadScale;
      const deviation = Math.sqrt(Math.max(0, squares / seen - mean * mean) + within);
      if (at < shownEnd) {
        lightnesses += weight[at] * mean;
        deviations += weight[at] * deviation;
      }
      const here = seenAs[cells[own[at]]];
      means[at] = mean;
      needed[at] = Math.max(LEAST_DIFFERENCE, LEAST_DEVIATIONS * deviation);
      under[at] = (here * BYTES_PER_LIGHTNESS + 0.5) | 0;
      bare[at] = here - mean;
    }
    this.lightness = shown < 0 ? 0 : lightnesses / windows.weights[shown];
    this.bustle = shown < 0 ? 0 : deviations / windows.weights[shown];
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
    const { copies, ends, weights } = this.windows;
    let at = 0;
    for (let copy = 0; copy < copies; copy++) {
      const end = ends[copy];
      const most = untilUnclear ? MOST_UNREAD * weights[copy] : Infinity;
      if (end > at) this.readCopy(ink, at, end, most);
      at = end;
    }
  }

  /** @param most weight that may go unread before the rest does not matter */
  private readCopy(ink: Float32Array, begin: number, end: number, most: number): void {
    const { mean, needed, under, bare } = this;
    const { weight, edge, part } = this.windows;
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
    this.under = new Uint8Array(points);
    this.bare = new Float64Array(points);
  }
}

const squared = (value: number): number => value * value;

/** Squares of bytes as squares of L*. */
const SPREAD_SCALE = 1 / BYTES_PER_LIGHTNESS ** 2;
