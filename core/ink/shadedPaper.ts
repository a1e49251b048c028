import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import type { Point } from '../placement/geometry.ts';
import { LINEAR_CHANNELS, luminanceOf, type LinearImage } from './linearImage.ts';
import { shrunk } from './mask.ts';
import { areaOf, hullOf, isWithin } from './outlineShape.ts';
import { closedPadded } from './slidingExtreme.ts';
import { around, regionOf, type Surfaces } from './surfaces.ts';

/**
 * The sheet is its brightest surface and every other surface that is the same paper in shadow. Neither
 * brightness nor the sharpness of an edge tells a shadow from a table; what does is that a shadow keeps
 * the paper's hue and its smoothness, that the sheet's outline runs straight on past it, and that ink
 * runs through it.
 */

export interface ShadedPicture {
  readonly small: LinearImage;
  /** Brightness without strokes. */
  readonly plain: Float32Array;
  /** Strokes up to twice this, px, are not in `plain`. */
  readonly radius: number;
}

/** A surface smaller than this share of the picture is the edge of another, or grain. */
const LEAST_SURFACE = 0.012;
/** The edge of a shadow is at most this wide, as a share of the longer side. */
const WIDEST_EDGE = 0.15;
/** Shadows on one sheet. */
const MOST_SHADOWS = 8;
/** What is darker than this beside its neighbour is no paper any more, lit by what is left of the light. */
const DEEPEST = 0.1;
/**
 * Ratios of channels within this factor are one hue: what a shadow leaves is light of the room, a little
 * other than that of the lamp.
 */
const SAME_HUE = 0.16;
/** Where ink runs through, the light may be of quite another colour. */
const HUE_WITH_INK = 0.25;
/** Unevenness of a surface, as a standard deviation, over that of the paper in the light … */
const ROUGHER = 2.5;
/** … and this, which is grain in the dark. */
const SMOOTH = 0.012;
/** How far a contact may stray from a straight line, as a share of its length. */
const STRAIGHT = 0.12;
/** Share of its hull that a sheet fills. */
const NO_BAYS = 0.93;
/** An edge that falls over more than this, px of the small picture, is none of a sheet. */
const SOFT_EDGE_PX = 1.9;

/** @returns 1 where there is paper, in the light or in shadow */
export function shadedPaper(
  surfaces: Surfaces,
  picture: ShadedPicture,
  hasPlainCorners: (mask: Uint8Array) => boolean,
): Uint8Array {
  const { labels, areas, lights, width } = surfaces;
  const brightest = lights.reduce((best, light, label) => (light > lights[best] ? label : best), 0);
  let paper: Uint8Array = Uint8Array.from(labels, (label) => (label === brightest ? 1 : 0));
  const least = LEAST_SURFACE * labels.length;
  const candidates = new Set(
    areas.flatMap((area, label) => (area >= least && label !== brightest ? label : [])),
  );
  if (candidates.size === 0) return paper;
  const sight = new Sight(picture, width);
  const unevenness = sight.unevenness(paper);
  for (let joined = 0; joined < MOST_SHADOWS; joined++) {
    const contacts = contactsOf(paper, labels, candidates, width);
    const shaded = [...contacts.values()]
      .sort((a, b) => b.length - a.length)
      .find((contact) => isShaded(contact, paper, unevenness, surfaces, sight, hasPlainCorners));
    if (!shaded) return paper;
    candidates.delete(shaded[0].label);
    paper = joinedBy(paper, shaded, labels, width);
  }
  return paper;
}

/** A pixel of a surface, and the pixel of the paper it is nearest to across an edge. */
interface Touch {
  readonly label: number;
  readonly from: number;
  readonly to: number;
  readonly distance: number;
}

/** Where the paper touches other surfaces, across the narrow ones an edge consists of; by surface. */
function contactsOf(
  paper: Uint8Array,
  labels: Int32Array,
  candidates: ReadonlySet<number>,
  width: number,
): Map<number, Touch[]> {
  const height = paper.length / width;
  const reach = Math.round(WIDEST_EDGE * Math.max(width, height));
  const origin = new Int32Array(paper.length).fill(-1);
  const contacts = new Map<number, Touch[]>();
  let front: number[] = [];
  paper.forEach((flag, at) => {
    if (!flag) return;
    origin[at] = at;
    front.push(at);
  });
  for (let distance = 1; distance <= reach && front.length > 0; distance++) {
    const next: number[] = [];
    for (const at of front) {
      for (const to of around(at, width, paper.length)) {
        if (to < 0 || origin[to] >= 0) continue;
        const label = labels[to];
        origin[to] = origin[at];
        if (candidates.has(label)) {
          const touches = contacts.get(label) ?? [];
          touches.push({ label, from: origin[at], to, distance });
          contacts.set(label, touches);
        } else next.push(to);
      }
    }
    front = next;
  }
  return new Map([...contacts].map(([label, touches]) => [label, straightAcross(touches)]));
}

/** Where an edge ends, ways lead round its end, too. */
function straightAcross(touches: readonly Touch[]): Touch[] {
  const most = 2 * median(touches.map(({ distance }) => distance)) + 1;
  return touches.filter(({ distance }) => distance <= most);
}

function isShaded(
  contact: readonly Touch[],
  paper: Uint8Array,
  unevenness: number,
  { labels, width }: Surfaces,
  sight: Sight,
  hasPlainCorners: (mask: Uint8Array) => boolean,
): boolean {
  const { label } = contact[0];
  const { step, hue } = sight.change(contact);
  if (Math.abs(step) > -Math.log(DEEPEST)) return false;
  const isRunThrough = sight.isInkAcross(contact, paper, labels, label);
  if (isRunThrough && hue <= HUE_WITH_INK) return true;
  if (hue > SAME_HUE) return false;
  const shade = Uint8Array.from(labels, (other) => (other === label ? 1 : 0));
  if (sight.unevenness(shade) > ROUGHER * unevenness + SMOOTH) return false;
  if (liesWithin(shade, paper, width)) return true;
  const line = lineOf(contact, width, paper.length / width);
  if (line.bend > STRAIGHT) return false;
  const whole = joinedBy(paper, contact, labels, width);
  if (line.hasFreeEnd && hasPlainCorners(whole)) return true;
  return bulges(whole, width) && sight.edgeWidth(contact, line) > SOFT_EDGE_PX;
}

/** Whether there are no bays in it, as there are none in a sheet. */
function bulges(mask: Uint8Array, width: number): boolean {
  const region = regionOf(mask, width);
  return region.area / areaOf(hullOf(region)) > NO_BAYS;
}

/** A shadow that reaches into the sheet, instead of a table that lies round it. */
function liesWithin(shade: Uint8Array, paper: Uint8Array, width: number): boolean {
  const hull = hullOf(regionOf(paper, width));
  let [all, within] = [0, 0];
  shade.forEach((flag, at) => {
    if (!flag) return;
    all++;
    const x = at % width;
    if (isWithin(hull, { x: x + 0.5, y: (at - x) / width + 0.5 })) within++;
  });
  return within > all / 2;
}

interface ContactLine {
  readonly middle: Point;
  /** Of length 1, along the contact. */
  readonly along: Point;
  /** How far it strays to both sides, as a share of its length. */
  readonly bend: number;
  /** Whether it ends within the picture at least on one side, so at the sheet's edge. */
  readonly hasFreeEnd: boolean;
}

/** The line through the middle of a contact, by the axis of most variance. */
function lineOf(contact: readonly Touch[], width: number, height: number): ContactLine {
  const points = contact.map(({ from, to }) => ({
    x: ((from % width) + (to % width)) / 2,
    y: (Math.floor(from / width) + Math.floor(to / width)) / 2,
  }));
  const middle = {
    x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
    y: points.reduce((sum, { y }) => sum + y, 0) / points.length,
  };
  let [xx, xy, yy] = [0, 0, 0];
  for (const { x, y } of points) {
    xx += (x - middle.x) ** 2;
    xy += (x - middle.x) * (y - middle.y);
    yy += (y - middle.y) ** 2;
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  const along = { x: Math.cos(angle), y: Math.sin(angle) };
  const lengthwise = points.map(({ x, y }) => (x - middle.x) * along.x + (y - middle.y) * along.y);
  const sideways = points.map(({ x, y }) => (y - middle.y) * along.x - (x - middle.x) * along.y);
  const [first, last] = [Math.min(...lengthwise), Math.max(...lengthwise)];
  const spread = quantile(sideways, 0.97) - quantile(sideways, 0.03);
  const isFree = (at: number): boolean => {
    const x = middle.x + along.x * at;
    const y = middle.y + along.y * at;
    return Math.min(x, y, width - x, height - y) > EDGE_OF_PICTURE_PX;
  };
  return {
    middle,
    along,
    bend: spread / Math.max(1, last - first),
    hasFreeEnd: isFree(first) || isFree(last),
  };
}

const EDGE_OF_PICTURE_PX = 4;

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.round((sorted.length - 1) * share)))];
}

const median = (values: readonly number[]): number => quantile(values, 0.5);

/** The paper with the surface of a contact, and the edge between the two. */
function joinedBy(
  paper: Uint8Array,
  contact: readonly Touch[],
  labels: Int32Array,
  width: number,
): Uint8Array {
  const { label } = contact[0];
  const both = Float32Array.from(paper, (flag, at) => (flag || labels[at] === label ? 1 : 0));
  const gap = median(contact.map(({ distance }) => distance));
  const whole = closedPadded(both, width, Math.ceil(gap / 2) + 1);
  return Uint8Array.from(whole, (value) => (value > 0 ? 1 : 0));
}

/** Looks at the small picture with its strokes and without, by channel. */
class Sight {
  private readonly channels: readonly Float32Array[];
  private readonly light: Float32Array;
  private readonly logs: Float32Array;

  private readonly picture: ShadedPicture;
  private readonly width: number;

  constructor(picture: ShadedPicture, width: number) {
    this.picture = picture;
    this.width = width;
    const { small, plain, radius } = picture;
    this.light = luminanceOf(small, LUMINANCE_WEIGHTS);
    this.channels = Array.from({ length: LINEAR_CHANNELS }, (_, channel) => {
      const plane = Float32Array.from(plain, (__, at) => small.data[at * LINEAR_CHANNELS + channel]);
      return closedPadded(plane, width, radius);
    });
    this.logs = plain.map((value) => Math.log(Math.max(value, 1e-4)));
  }

  /** How brightness and hue change across a contact, as natural logarithms. */
  change(contact: readonly Touch[]): { step: number; hue: number } {
    const [red, green, blue] = this.channels.map((plane) =>
      median(
        contact.map(({ from, to }) => Math.log(Math.max(plane[to], 1e-4) / Math.max(plane[from], 1e-4))),
      ),
    );
    return { step: green, hue: Math.max(Math.abs(red - green), Math.abs(blue - green)) };
  }

  /** Standard deviation of brightness against its surroundings, where there is no ink. */
  unevenness(mask: Uint8Array): number {
    const { width, light } = this;
    const { plain } = this.picture;
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
  isInkAcross(
    contact: readonly Touch[],
    paper: Uint8Array,
    labels: Int32Array,
    label: number,
  ): boolean {
    const { width, light } = this;
    const { plain } = this.picture;
    const ink = Uint8Array.from(light, (value, at) => (value < plain[at] * INK ? 1 : 0));
    const core = {
      paper: shrunk(paper, width, CORE_PX),
      other: shrunk(
        Uint8Array.from(labels, (other) => (other === label ? 1 : 0)),
        width,
        CORE_PX,
      ),
    };
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

  /** Over how many px the step across a contact falls from a tenth to nine tenths, as a rule. */
  edgeWidth(contact: readonly Touch[], { along }: ContactLine): number {
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

function between(plane: Float32Array, width: number, x: number, y: number): number {
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [right, below] = [Math.min(left + 1, width - 1), Math.min(top + 1, plane.length / width - 1)];
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
