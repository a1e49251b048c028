import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import type { Point, Size } from '../placement/geometry.ts';
import { isConvex, type Quad } from './homography.ts';
import { LINEAR_CHANNELS, luminanceOf, type LinearImage } from './linearImage.ts';
import { closed } from './slidingExtreme.ts';

/** A sheet of paper lying on something darker, places as fractions of the picture. */
export interface FoundSheet {
  /** 1 where there is paper, on a small grid over the whole picture. */
  readonly paper: Uint8Array;
  readonly grid: Size;
  /** Its four corners from the top left clockwise, where they are plain enough to straighten by. */
  readonly corners: Quad | null;
}

/** Strokes narrower than this share of the longer side do not cut the sheet apart. */
const CLOSING_SHARE = 0.03;
/** A sheet covers at least this share of the picture … */
const LEAST_AREA = 0.12;
/** … and where it covers all but this, there is no table to speak of. */
const MOST_AREA = 0.985;
/** How much brighter the sheet is than the table along an edge; soft shadows stay below. */
const LEAST_STEP = 1.25;
/** Distance from the edge at which the step is looked for, as a share of the longer side. */
const STEP_REACH = 0.012;
/** Share of the four-cornered outline that the sheet must fill for the corners to be trusted. */
const LEAST_FILL = 0.93;
/** Corners this far outside of the picture were not seen. */
const CORNER_MARGIN = 0.02;

/** Longer side of the plane that is searched, px: enough for an edge, too little for grain. */
const SEARCHED_PX = 240;
/**
 * Brightness of neighbouring pixels of one surface differs by less than this share. A soft shadow
 * changes slowly, the edge of a sheet at once, however dark the shadow and bright the table. Where
 * the sheet runs over into the table, a stricter share is tried.
 */
const SAME_SURFACE = [0.11, 0.08, 0.06, 0.045] as const;

/** Finds the sheet in a reduced photo, or null where the picture is all paper (a scan). */
export function findSheet(reduced: LinearImage): FoundSheet | null {
  const small = shrunk(reduced, SEARCHED_PX);
  const radius = Math.max(1, Math.round(Math.max(small.width, small.height) * CLOSING_SHARE));
  const plain = closed(luminanceOf(small, LUMINANCE_WEIGHTS), small.width, radius);
  let best: FoundSheet | null = null;
  for (const tolerance of SAME_SURFACE) {
    const found = sheetOf(plain, small.width, tolerance);
    if (found?.corners) return found;
    best ??= found;
  }
  return best;
}

function sheetOf(plain: Float32Array, width: number, tolerance: number): FoundSheet | null {
  const height = plain.length / width;
  const surface = brightestSurface(plain, width, tolerance);
  const share = surface.area / plain.length;
  if (share < LEAST_AREA || share > MOST_AREA) return null;
  const hull = convexHull(rimOf(surface));
  if (hull.length < 3) return null;
  const reach = Math.max(2, Math.max(width, height) * STEP_REACH);
  if (!standsOut(hull, plain, width, reach)) return null;
  const quad = fourCorners(hull);
  const asFraction = ({ x, y }: Point): Point => ({ x: x / width, y: y / height });
  const isPlain =
    quad !== null &&
    isConvex(quad) &&
    surface.area / area(quad) >= LEAST_FILL &&
    quad.map(asFraction).every(isInPicture);
  const corners = isPlain ? (quad.map(asFraction) as unknown as Quad) : null;
  return { paper: enclosed(surface, width, height), grid: { width, height }, corners };
}

function isInPicture({ x, y }: Point): boolean {
  const isIn = (at: number): boolean => at > -CORNER_MARGIN && at < 1 + CORNER_MARGIN;
  return isIn(x) && isIn(y);
}

/** Whole blocks averaged, so that grain goes and edges stay. */
function shrunk(image: LinearImage, longSidePx: number): LinearImage {
  const block = Math.max(1, Math.round(Math.max(image.width, image.height) / longSidePx));
  const width = Math.floor(image.width / block);
  const height = Math.floor(image.height / block);
  const data = new Float32Array(width * height * LINEAR_CHANNELS);
  for (let y = 0; y < height * block; y++) {
    for (let x = 0; x < width * block; x++) {
      const from = (y * image.width + x) * LINEAR_CHANNELS;
      const to = (Math.floor(y / block) * width + Math.floor(x / block)) * LINEAR_CHANNELS;
      for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
        data[to + channel] += image.data[from + channel] / (block * block);
      }
    }
  }
  return { data, width, height };
}

/** Pixels of one surface: for each row and column the first and the last. */
interface Region {
  area: number;
  /** Sum of light over the region. */
  light: number;
  readonly rows: Map<number, [number, number]>;
  readonly columns: Map<number, [number, number]>;
}

/** The surface that sends back the most light in all: large and bright. */
function brightestSurface(plane: Float32Array, width: number, tolerance: number): Region {
  const logs = plane.map((value) => Math.log(Math.max(value, DARKEST)));
  const seen = new Uint8Array(plane.length);
  let best: Region | null = null;
  for (let start = 0; start < plane.length; start++) {
    if (seen[start]) continue;
    const region = flooded(plane, logs, width, tolerance, seen, start);
    if (!best || region.light > best.light) best = region;
  }
  return best ?? { area: 0, light: 0, rows: new Map(), columns: new Map() };
}

const DARKEST = 1e-4;

function flooded(
  plane: Float32Array,
  logs: Float32Array,
  width: number,
  tolerance: number,
  seen: Uint8Array,
  start: number,
): Region {
  const height = plane.length / width;
  const region: Region = { area: 0, light: 0, rows: new Map(), columns: new Map() };
  const stack = [start];
  seen[start] = 1;
  for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
    const x = at % width;
    const y = (at - x) / width;
    region.area++;
    region.light += plane[at];
    widen(region.rows, y, x);
    widen(region.columns, x, y);
    const visit = (next: number): void => {
      if (seen[next] || Math.abs(logs[next] - logs[at]) > tolerance) return;
      seen[next] = 1;
      stack.push(next);
    };
    if (x > 0) visit(at - 1);
    if (x + 1 < width) visit(at + 1);
    if (y > 0) visit(at - width);
    if (y + 1 < height) visit(at + width);
  }
  return region;
}

function widen(spans: Map<number, [number, number]>, line: number, at: number): void {
  const span = spans.get(line);
  if (!span) spans.set(line, [at, at]);
  else if (at < span[0]) span[0] = at;
  else if (at > span[1]) span[1] = at;
}

/** Corners of the outermost pixels of each row. */
function rimOf({ rows }: Region): Point[] {
  return [...rows].flatMap(([y, [first, last]]) => [
    ...[0, 1].map((down) => ({ x: first, y: y + down })),
    ...[0, 1].map((down) => ({ x: last + 1, y: y + down })),
  ]);
}

/** 1 for the region and what it encloses both ways: thick ink, but no bay where the sheet curls. */
function enclosed({ rows, columns }: Region, width: number, height: number): Uint8Array {
  const paper = new Uint8Array(width * height);
  for (const [y, [first, last]] of rows) {
    for (let x = first; x <= last; x++) {
      const [top, bottom] = columns.get(x) ?? [height, -1];
      if (y >= top && y <= bottom) paper[y * width + x] = 1;
    }
  }
  return paper;
}

function cross(o: Point, a: Point, b: Point): number {
  return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);
}

/** Andrew's monotone chain (1979); clockwise as seen with y downwards. */
function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y);
  const half = (line: readonly Point[]): Point[] => {
    const chain: Point[] = [];
    for (const point of line) {
      while (
        chain.length > 1 &&
        cross(chain[chain.length - 2], chain[chain.length - 1], point) <= 0
      )
        chain.pop();
      chain.push(point);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/**
 * Whether the outline is where brightness steps, along most of what lies inside of the picture.
 * Light that falls off over a sheet that fills the picture has an outline too, but no step.
 */
function standsOut(
  hull: readonly Point[],
  plane: Float32Array,
  width: number,
  reach: number,
): boolean {
  const height = plane.length / width;
  const at = (x: number, y: number): number | null => {
    const column = Math.floor(x);
    const row = Math.floor(y);
    if (column < 0 || row < 0 || column >= width || row >= height) return null;
    return plane[row * width + column];
  };
  let steps = 0;
  let looked = 0;
  hull.forEach((start, index) => {
    const end = hull[(index + 1) % hull.length];
    const length = Math.hypot(end.x - start.x, end.y - start.y);
    const normal = { x: (end.y - start.y) / length, y: (start.x - end.x) / length };
    for (let along = 1; along < length; along += 2) {
      const x = start.x + ((end.x - start.x) * along) / length;
      const y = start.y + ((end.y - start.y) * along) / length;
      const outer = at(x + normal.x * reach, y + normal.y * reach);
      const inner = at(x - normal.x * reach, y - normal.y * reach);
      if (outer === null || inner === null) continue;
      looked++;
      if (inner > outer * LEAST_STEP) steps++;
    }
  });
  return looked > 0 && steps / looked > 0.6;
}

function area(polygon: readonly Point[]): number {
  let twice = 0;
  polygon.forEach((a, index) => {
    const b = polygon[(index + 1) % polygon.length];
    twice += a.x * b.y - b.x * a.y;
  });
  return Math.abs(twice) / 2;
}

/** Takes edges away, each time the one whose neighbours close the gap with the least new area. */
function fourCorners(hull: readonly Point[]): Quad | null {
  const polygon = [...hull];
  while (polygon.length > 4) {
    let best: { at: number; added: number; corner: Point } | null = null;
    for (let at = 0; at < polygon.length; at++) {
      const [before, a, b, after] = [-1, 0, 1, 2].map(
        (step) => polygon[(at + step + polygon.length) % polygon.length],
      );
      const corner = meeting(before, a, after, b);
      if (!corner) continue;
      const added = area([a, corner, b]);
      if (!best || added < best.added) best = { at, added, corner };
    }
    if (!best) return null;
    const next = (best.at + 1) % polygon.length;
    polygon[best.at] = best.corner;
    polygon.splice(next, 1);
  }
  if (polygon.length < 4) return null;
  const start = polygon.reduce(
    (least, { x, y }, index) => (x + y < polygon[least].x + polygon[least].y ? index : least),
    0,
  );
  return [0, 1, 2, 3].map((step) => polygon[(start + step) % 4]) as unknown as Quad;
}

/** Where the line from `a` through `b` meets the one from `c` through `d`, beyond `b` and `d`. */
function meeting(a: Point, b: Point, c: Point, d: Point): Point | null {
  const dx1 = b.x - a.x;
  const dy1 = b.y - a.y;
  const dx2 = d.x - c.x;
  const dy2 = d.y - c.y;
  const det = dx1 * dy2 - dy1 * dx2;
  if (Math.abs(det) < 1e-9) return null;
  const along = ((c.x - a.x) * dy2 - (c.y - a.y) * dx2) / det;
  const other = ((c.x - a.x) * dy1 - (c.y - a.y) * dx1) / det;
  if (along < 1 || other < 1) return null;
  return { x: a.x + dx1 * along, y: a.y + dy1 * along };
}
