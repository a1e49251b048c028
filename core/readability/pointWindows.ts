import { radians, type Size } from '../placement/geometry.ts';
import type { Copy } from '../placement/placeMark.ts';
import { POINT, POINT_NUMBERS, type InkPoints } from './inkPoints.ts';
import { BYTES_A_CELL } from './lightMap.ts';
import { reachOf, WORKING_LONG_SIDE_PX } from './measure.ts';

/** Of many copies no more than this are looked at: the best of a spread is close to the best. */
const MOST_COPIES = 9;

/** Points of all copies that room is made for at first. */
const FIRST_POINTS = 64;

/**
 * Where the points of a mark lie in light maps of a size, and the cells round each that its ground is: the same for
 * all photos of a frame, so most of a batch shares a few. It is filled again for other places, and makes no arrays
 * for that.
 */
export class PointWindows {
  /** Points that lie on the photo, copy after copy. */
  count = 0;
  /** Copies of which there are points, where the points of each end, and what they weigh together. */
  copies = 0;
  readonly ends = new Uint32Array(MOST_COPIES);
  readonly weights = new Float64Array(MOST_COPIES);

  /** The first copy that has any; −1: none. */
  firstShown = -1;

  // Of each point.
  weight = new Float64Array(FIRST_POINTS);
  /** Of its weight, what lies on the edge of the ink. */
  edge = new Float64Array(FIRST_POINTS);
  part = new Uint16Array(FIRST_POINTS);
  /** Byte of the map where the cell it lies in begins. */
  own = new Int32Array(FIRST_POINTS);
  /** The same of the first cell of its window, cells of a row, and rows. */
  first = new Int32Array(FIRST_POINTS);
  across = new Int32Array(FIRST_POINTS);
  down = new Int32Array(FIRST_POINTS);

  private map: Size = { width: 0, height: 0 };
  private frame: Size | null = null;
  private placed: readonly Copy[] | null = null;
  private points: InkPoints | null = null;

  /**
   * @param map its size, cells
   * @param frame the output frame of the copies
   */
  lay(map: Size, frame: Size, copies: readonly Copy[], points: InkPoints): void {
    const isSame =
      this.placed === copies &&
      this.points === points &&
      this.map.width === map.width &&
      this.map.height === map.height &&
      this.frame?.width === frame.width &&
      this.frame.height === frame.height;
    if (isSame) return;
    this.map = { width: map.width, height: map.height };
    this.frame = frame;
    this.placed = copies;
    this.points = points;
    this.count = 0;
    this.copies = 0;
    this.firstShown = -1;
    const step = Math.max(1, copies.length / MOST_COPIES);
    this.makeRoom(Math.min(copies.length, MOST_COPIES) * (points.values.length / POINT_NUMBERS));
    for (let at = 0; at < copies.length && this.copies < MOST_COPIES; at += step) {
      const before = this.count;
      this.weights[this.copies] = this.layCopy(frame, copies[Math.floor(at)], points);
      if (this.firstShown < 0 && this.count > before) this.firstShown = this.copies;
      this.ends[this.copies++] = this.count;
    }
  }

  /** @returns what the points weigh that lie on the photo */
  private layCopy(frame: Size, { box, size, rotation }: Copy, { values }: InkPoints): number {
    const { width, height } = this.map;
    const cellX = width / frame.width;
    const cellY = height / frame.height;
    const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(frame.width, frame.height));
    /** How far round a point its ground is looked at, px of the frame. */
    const reach = reachOf({ width: box.width * factor, height: box.height * factor }) / factor;
    const reachX = Math.max(0.5, reach * cellX);
    const reachY = Math.max(0.5, reach * cellY);
    const workingWidth = Math.max(size.width * factor, 1e-6);
    const centreX = box.x + box.width / 2;
    const centreY = box.y + box.height / 2;
    const cos = Math.cos(radians(rotation));
    const sin = Math.sin(radians(rotation));
    let seen = 0;
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
      const weight = values[at + POINT.weight];
      seen += weight;
      const to = this.count++;
      this.weight[to] = weight;
      this.edge[to] = weight * Math.min(1, values[at + POINT.edge] / workingWidth);
      this.part[to] = values[at + POINT.part];
      this.own[to] = ((y | 0) * width + (x | 0)) * BYTES_A_CELL;
      this.first[to] = (top * width + left) * BYTES_A_CELL;
      this.across[to] = right - left + 1;
      this.down[to] = bottom - top + 1;
    }
    return seen;
  }

  private makeRoom(points: number): void {
    if (this.weight.length >= points) return;
    this.weight = new Float64Array(points);
    this.edge = new Float64Array(points);
    this.part = new Uint16Array(points);
    this.own = new Int32Array(points);
    this.first = new Int32Array(points);
    this.across = new Int32Array(points);
    this.down = new Int32Array(points);
  }
}
