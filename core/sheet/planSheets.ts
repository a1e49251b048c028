import type { SheetRule } from '../contract/sheet.ts';
import type { Box, Size } from '../placement/geometry.ts';
import { failure, success, type Result } from '../result.ts';
import { PAPERS } from './papers.ts';

/** A photo on a sheet. Boxes are mm from the upper left corner of the trimmed sheet. */
export interface SheetPhoto {
  /** Place among the photos that were given. */
  readonly index: number;
  /** Where it is drawn; beyond the edge of the sheet where it bleeds. */
  readonly box: Box;
  /** The part of it that is drawn there, in shares of its width and height. */
  readonly part: Box;
  /** Where its caption stands, or null. */
  readonly caption: Box | null;
}

export interface PlannedSheet {
  /** Trimmed, mm. */
  readonly size: Size;
  readonly photos: readonly SheetPhoto[];
}

/** A line of a crop mark, mm from the upper left corner of the trimmed sheet. */
export interface CropLine {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

/** A caption's place in heights of its line: room above and below the letters. */
const CAPTION_HEIGHTS = 1.8;
/** Crop marks begin this far from the edge, or beyond the bleed, and are so long, mm. */
const MARK_AWAY_MM = 3;
const MARK_LENGTH_MM = 5;
/** A photo smaller than this is none any more. */
const LEAST_PLACE_MM = 5;

/** Photos of a sheet: a grid, filled row by row. */
export function photosASheet({ grid }: Pick<SheetRule, 'grid'>): number {
  return grid.columns * grid.rows;
}

export function sheetCount(rule: Pick<SheetRule, 'grid'>, photos: number): number {
  return Math.ceil(photos / photosASheet(rule));
}

/**
 * One sheet.
 *
 * @param photos upright sizes of those on it, at most as many as it holds
 * @param first place of the first among all
 * @returns a failure where margins, gaps and captions leave no room for photos
 */
export function planSheet(
  rule: SheetRule,
  photos: readonly Size[],
  first = 0,
): Result<PlannedSheet> {
  const size = sheetSize(rule, photos[0]);
  const { margin, grid, caption } = rule;
  const captionHeight = caption ? caption.size * CAPTION_HEIGHTS : 0;
  const across = size.width - margin.left - margin.right - grid.gap * (grid.columns - 1);
  const down = size.height - margin.top - margin.bottom - grid.gap * (grid.rows - 1);
  const cell = { width: across / grid.columns, height: down / grid.rows };
  const place = { width: cell.width, height: cell.height - captionHeight };
  if (place.width < LEAST_PLACE_MM || place.height < LEAST_PLACE_MM) {
    return failure(
      `Expected room for photos of at least ${LEAST_PLACE_MM} mm on a sheet of ` +
        `${size.width} × ${size.height} mm, found ${rounded(place.width)} × ${rounded(place.height)} mm.`,
    );
  }
  const planned = photos.map((photo, at): SheetPhoto => {
    const column = at % grid.columns;
    const row = Math.floor(at / grid.columns);
    const x = margin.left + column * (cell.width + grid.gap);
    const y = margin.top + row * (cell.height + grid.gap);
    const fitted = fit(photo, { x, y, ...place }, rule, size);
    const captionBox = caption && {
      x,
      // Right under the photo, which may be lower than its place.
      y: rule.fit === 'inside' ? fitted.box.y + fitted.box.height : y + place.height,
      width: cell.width,
      height: captionHeight,
    };
    return { index: first + at, ...fitted, caption: captionBox };
  });
  return success({ size, photos: planned });
}

function sheetSize({ paper, lies }: SheetRule, photo: Size | undefined): Size {
  const { width, height } = typeof paper === 'string' ? PAPERS[paper] : paper;
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  const isAcross = lies === 'photo' ? photo && photo.width > photo.height : lies === 'across';
  return isAcross ? { width: long, height: short } : { width: short, height: long };
}

function fit(
  photo: Size,
  place: Box,
  rule: SheetRule,
  sheet: Size,
): Pick<SheetPhoto, 'box' | 'part'> {
  const shape = photo.width / photo.height;
  if (rule.fit === 'inside') {
    const width = Math.min(place.width, place.height * shape);
    const height = width / shape;
    const x = place.x + (place.width - width) / 2;
    const y = place.y + (place.height - height) / 2;
    return { box: { x, y, width, height }, part: WHOLE };
  }
  const box = bled(place, rule.bleed, sheet);
  // As much of the photo as its place shows, about its middle.
  const width = Math.min(1, box.width / box.height / shape);
  const height = Math.min(1, shape / (box.width / box.height));
  return { box, part: { x: (1 - width) / 2, y: (1 - height) / 2, width, height } };
}

const WHOLE: Box = Object.freeze({ x: 0, y: 0, width: 1, height: 1 });
/** Sums of lengths are noisy in their last digits. */
const EDGE_TOLERANCE_MM = 1e-6;

/** A place that reaches the edge of the sheet goes beyond it. */
function bled(place: Box, bleed: number, { width, height }: Size): Box {
  const isAt = (a: number, b: number): boolean => Math.abs(a - b) < EDGE_TOLERANCE_MM;
  const left = isAt(place.x, 0) ? bleed : 0;
  const top = isAt(place.y, 0) ? bleed : 0;
  const right = isAt(place.x + place.width, width) ? bleed : 0;
  const bottom = isAt(place.y + place.height, height) ? bleed : 0;
  return {
    x: place.x - left,
    y: place.y - top,
    width: place.width + left + right,
    height: place.height + top + bottom,
  };
}

/** Room round the trimmed sheet, mm: what is printed beyond it and cut off. */
export function roomAround({ bleed, crop_marks: hasMarks }: SheetRule): number {
  return hasMarks ? Math.max(bleed, MARK_AWAY_MM) + MARK_LENGTH_MM : bleed;
}

/** Two lines at each corner, outside of sheet and bleed. */
export function cropLines(rule: SheetRule, { width, height }: Size): CropLine[] {
  if (!rule.crop_marks) return [];
  const away = Math.max(rule.bleed, MARK_AWAY_MM);
  const end = away + MARK_LENGTH_MM;
  const along = (edge: number, far: boolean): [number, number] =>
    far ? [edge + away, edge + end] : [-away, -end];
  return [false, true].flatMap((isRight) =>
    [false, true].flatMap((isLow) => {
      const x = isRight ? width : 0;
      const y = isLow ? height : 0;
      const [x1, x2] = along(width, isRight);
      const [y1, y2] = along(height, isLow);
      return [
        { x1, y1: y, x2, y2: y },
        { x1: x, y1, x2: x, y2 },
      ];
    }),
  );
}

function rounded(mm: number): number {
  return Math.round(mm * 10) / 10;
}
