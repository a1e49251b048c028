import type { Point, Size } from '../placement/geometry.ts';
import { isConvex, type Quad } from './homography.ts';
import { LINEAR_CHANNELS, type LinearImage } from './linearImage.ts';
import { areaOf, fourCorners, hullOf } from './outlineShape.ts';
import { shadedPaper } from './shadedPaper.ts';
import { SheetSight } from './sheetSight.ts';
import { regionOf, surfacesOf, type Region } from './surfaces.ts';

/** A sheet of paper lying on something darker, places as fractions of the picture. */
export interface FoundSheet {
  /** 1 where there is paper, on a small grid over the whole picture. */
  readonly paper: Uint8Array;
  readonly grid: Size;
  /** Its four corners from the top left clockwise, where they are plain enough to straighten by. */
  readonly corners: Quad | null;
  /** Whether ink on it runs on beyond it, which is cut off there. */
  readonly cutsInk: boolean;
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
  const sight = new SheetSight(small, radius);
  const { plain, width } = sight;
  let best: FoundSheet | null = null;
  for (const tolerance of SAME_SURFACE) {
    const surfaces = surfacesOf(plain, width, tolerance, sight.hues);
    const paper = shadedPaper(surfaces, sight, (mask) => hasPlainCorners(mask, plain, width));
    const found = sheetOf(paper, sight);
    if (found?.corners) return found;
    best ??= found;
  }
  return best;
}

function hasPlainCorners(mask: Uint8Array, plain: Float32Array, width: number): boolean {
  const region = regionOf(mask, width);
  const hull = hullOf(region);
  return (
    standsOut(hull, plain, width) &&
    plainCorners(region, hull, width, plain.length / width) !== null
  );
}

function sheetOf(mask: Uint8Array, sight: SheetSight): FoundSheet | null {
  const { plain, width, height } = sight;
  const region = regionOf(mask, width);
  const share = region.area / plain.length;
  if (share < LEAST_AREA || share > MOST_AREA) return null;
  const hull = hullOf(region);
  if (hull.length < 3 || !standsOut(hull, plain, width)) return null;
  const corners = plainCorners(region, hull, width, height);
  const paper = enclosed(region, width, height);
  return { paper, grid: { width, height }, corners, cutsInk: sight.isInkCutBy(paper) };
}

function plainCorners(
  { area }: Region,
  hull: readonly Point[],
  width: number,
  height: number,
): Quad | null {
  const quad = fourCorners(hull);
  const isPlain = quad !== null && isConvex(quad) && area / areaOf(quad) >= LEAST_FILL;
  if (!isPlain) return null;
  const corners = quad.map(({ x, y }) => ({ x: x / width, y: y / height }));
  return corners.every(isInPicture) ? (corners as unknown as Quad) : null;
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

/**
 * Whether the outline is where brightness steps, along most of what lies inside of the picture.
 * Light that falls off over a sheet that fills the picture has an outline too, but no step.
 */
function standsOut(hull: readonly Point[], plane: Float32Array, width: number): boolean {
  const height = plane.length / width;
  const reach = Math.max(2, Math.max(width, height) * STEP_REACH);
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
