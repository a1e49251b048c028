import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import type { Point } from '../placement/geometry.ts';
import { LINEAR_CHANNELS, luminanceOf, type LinearImage } from './linearImage.ts';
import { shrunk } from './mask.ts';
import { closedPadded } from './slidingExtreme.ts';
import { around } from './surfaces.ts';

/** Where one surface touches another, across the narrow ones an edge consists of. */
export interface Touch {
  /** Of the other surface. */
  readonly label: number;
  /** Pixels of the two, nearest to each other. */
  readonly from: number;
  readonly to: number;
  /** px */
  readonly distance: number;
}

export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.round((sorted.length - 1) * share)))];
}

export const median = (values: readonly number[]): number => quantile(values, 0.5);

const DARKEST = 1e-4;

/** A small picture of a sheet, with its strokes and without, and what can be seen of surfaces in it. */
export class SheetSight {
  readonly width: number;
  readonly height: number;
  /** Brightness without strokes. */
  readonly plain: Float32Array;
  /** Logarithms of red to green and of blue to green, without strokes. */
  readonly hues: readonly [Float32Array, Float32Array];
  private readonly light: Float32Array;
  /** 1 where there is ink. */
  private readonly ink: Uint8Array;
  private readonly logs: Float32Array;

  /** @param radius strokes up to twice this, px, are bridged */
  constructor(small: LinearImage, radius: number) {
    const { width, height } = small;
    [this.width, this.height] = [width, height];
    this.light = luminanceOf(small, LUMINANCE_WEIGHTS);
    this.plain = closedPadded(this.light, width, radius);
    this.logs = logsOf(this.plain);
    this.ink = new Uint8Array(this.light.length);
    for (let at = 0; at < this.ink.length; at++) {
      this.ink[at] = this.light[at] < this.plain[at] * INK ? 1 : 0;
    }
    const [red, green, blue] = Array.from({ length: LINEAR_CHANNELS }, (_, channel) => {
      const at = (index: number): number => small.data[index * LINEAR_CHANNELS + channel];
      return logsOf(
        closedPadded(
          this.light.map((__, index) => at(index)),
          width,
          radius,
        ),
      );
    });
    this.hues = [
      red.map((value, at) => value - green[at]),
      blue.map((value, at) => value - green[at]),
    ];
  }

  /** How brightness and hue change across a contact, as natural logarithms. */
  change(contact: readonly Touch[]): { step: number; hue: number } {
    const across = (plane: Float32Array): number =>
      median(contact.map(({ from, to }) => plane[to] - plane[from]));
    return {
      step: across(this.logs),
      hue: Math.max(...this.hues.map((plane) => Math.abs(across(plane)))),
    };
  }

  /** Standard deviation of brightness against its surroundings, where there is no ink. */
  unevenness(mask: Uint8Array): number {
    const { width, light, plain } = this;
    let [sum, count] = [0, 0];
    const isIn = (at: number): boolean => mask[at] === 1 && light[at] > plain[at] * BARE;
    for (let at = REACH * width; at < mask.length - REACH * width; at++) {
      const x = at % width;
      if (x < REACH || x >= width - REACH || !isIn(at)) continue;
      // Against the mean of two places on both sides, so that light that falls off counts for nothing.
      for (const step of [REACH, REACH * width]) {
        if (!isIn(at - step) || !isIn(at + step)) continue;
        const own = Math.log(light[at]);
        const around = (Math.log(light[at - step]) + Math.log(light[at + step])) / 2;
        sum += Math.min(MOST_UNEVEN, (own - around) ** 2);
        count++;
      }
    }
    return count > 0 ? Math.sqrt(sum / count) : 0;
  }

  /** Whether a stroke lies on the paper and on the other surface, some way from where they meet. */
  isInkAcross(contact: readonly Touch[], paper: Uint8Array, other: Uint8Array): boolean {
    const { width, light, plain, ink } = this;
    const core = { paper: shrunk(paper, width, CORE_PX), other: shrunk(other, width, CORE_PX) };
    const seen = new Uint8Array(ink.length);
    const stack: number[] = [];
    for (const { from, to } of contact) {
      for (const start of [from, to]) {
        if (!ink[start] || seen[start]) continue;
        const sides: Record<'paper' | 'other', number[]> = { paper: [], other: [] };
        seen[start] = 1;
        stack.push(start);
        for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
          const depth = light[at] / plain[at];
          if (core.paper[at]) sides.paper.push(depth);
          else if (core.other[at]) sides.other.push(depth);
          const x = at % width;
          for (let down = -1; down <= 1; down++) {
            for (let right = -1; right <= 1; right++) {
              const next = at + down * width + right;
              if (x + right < 0 || x + right >= width || next < 0 || next >= ink.length) continue;
              if (!ink[next] || seen[next]) continue;
              seen[next] = 1;
              stack.push(next);
            }
          }
        }
        const isLong = Math.min(sides.paper.length, sides.other.length) >= STROKE_PX;
        if (isLong && Math.abs(median(sides.paper) - median(sides.other)) < SAME_DEPTH) return true;
      }
    }
    return false;
  }

  /** Whether a stroke that lies on the paper goes on beside it. */
  isInkCutBy(paper: Uint8Array): boolean {
    const { width } = this;
    const rim: Touch[] = [];
    for (let from = 0; from < paper.length; from++) {
      if (!paper[from]) continue;
      for (const to of around(from, width, paper.length)) {
        if (to >= 0 && !paper[to]) rim.push({ label: -1, from, to, distance: 1 });
      }
    }
    return this.isInkAcross(
      rim,
      paper,
      paper.map((flag) => 1 - flag),
    );
  }

  /** Over how many px the step across a contact falls from a tenth to nine tenths, as a rule. */
  edgeWidth(contact: readonly Touch[], along: Point): number {
    const { width, logs } = this;
    const height = logs.length / width;
    const normal = { x: -along.y, y: along.x };
    const widths = contact.flatMap(({ from, to }) => {
      const middle = {
        x: ((from % width) + (to % width)) / 2,
        y: (Math.floor(from / width) + Math.floor(to / width)) / 2,
      };
      const profile: number[] = [];
      for (let out = -PROFILE_PX; out <= PROFILE_PX; out += PROFILE_STEP) {
        const x = middle.x + normal.x * out;
        const y = middle.y + normal.y * out;
        if (x < 0 || y < 0 || x > width - 1 || y > height - 1) return [];
        profile.push(between(logs, width, x, y));
      }
      return fallOf(profile);
    });
    return widths.length > 0 ? median(widths) : 0;
  }
}

/** Darker than this share of its surroundings is ink; brighter than the other is bare. */
const INK = 0.75;
const BARE = 0.9;
/** Distance at which unevenness shows, px. */
const REACH = 3;
/** One place does not speak for all. */
const MOST_UNEVEN = 0.04;
/** Nearer to the rim of a surface than this, px, pixels may be of its edge. */
const CORE_PX = 2;
/** Pixels of a stroke on both sides of an edge. */
const STROKE_PX = 4;
/** Ink is as dark in shadow as in the light, in relation to its paper. */
const SAME_DEPTH = 0.3;
const PROFILE_PX = 8;
const PROFILE_STEP = 0.25;

function logsOf(plane: Float32Array): Float32Array {
  return plane.map((value) => Math.log(Math.max(value, DARKEST)));
}

function between(plane: Float32Array, width: number, x: number, y: number): number {
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [right, below] = [
    Math.min(left + 1, width - 1),
    Math.min(top + 1, plane.length / width - 1),
  ];
  const at = (row: number, column: number): number => plane[row * width + column];
  const upper = at(top, left) + (at(top, right) - at(top, left)) * (x - left);
  const lower = at(below, left) + (at(below, right) - at(below, left)) * (x - left);
  return upper + (lower - upper) * (y - top);
}

/** The width of one step in a profile, px; nothing where there is none. */
function fallOf(profile: readonly number[]): number[] {
  const ends = Math.round(profile.length / 6);
  const mean = (some: readonly number[]): number =>
    some.reduce((sum, value) => sum + value, 0) / some.length;
  const [from, to] = [mean(profile.slice(0, ends)), mean(profile.slice(-ends))];
  if (Math.abs(to - from) < 0.1) return [];
  const share = profile.map((value) => (value - from) / (to - from));
  const first = share.findIndex((value) => value > 0.1);
  const last = share.findIndex((value) => value > 0.9);
  return first < 0 || last < first ? [] : [(last - first) * PROFILE_STEP];
}
