import { contours } from 'd3-contour';
import { createTangent, fitCubic } from 'fit-curve';
import type { Outline, Outlines } from './outline.ts';
import { FULL, type Coverage } from './plane.ts';

type Place = [number, number];

/** Longer side of the plane that is traced, px: more only makes more points of the same curve. */
const TRACED_LONG_SIDE_PX = 2_000;
/** Ink smaller than this is traced at twice its size, where thin strokes are met better. */
const SMALL_LONG_SIDE_PX = 1_000;

/** Greatest distance of the curves from the contour, px of the traced plane, by smoothing. */
const FAITHFUL_PX = 0.35;
const SMOOTH_PX = 2.6;
/** Points along a contour are averaged over this many neighbours on each side, by smoothing. */
const LEAST_AVERAGED = 1;
const MOST_AVERAGED = 9;

/** A turn this sharp, degrees, between points this far apart along the contour, is a corner. */
const CORNER_DEG = 62;
const CORNER_REACH = 4;
/** Smoothed, only what turns over a longer way is one: tremor has many small corners. */
const SMOOTH_CORNER_REACH = 14;
/** Curves are fitted to at most this many points at a time; longer takes time and gains nothing. */
const PIECE_POINTS = 120;
/** Rings smaller than this are noise of the contour, px² of the traced plane. */
const LEAST_RING_PX2 = 1.5;

/**
 * Coverage as smooth outlines: the line of half coverage, found between the pixels, then cubic
 * curves fitted to it (Schneider, "An algorithm for automatically fitting digitized curves", 1990).
 *
 * @param smoothing 0 follows the ink faithfully, 1 smooths tremor and grain away
 * @returns outlines in px of the given plane
 */
export function traced(plane: Coverage, smoothing: number): Outlines {
  const { plane: grid, scale } = prepared(plane);
  const find = contours().size([grid.width, grid.height]).smooth(true);
  // It only reads by index; a copy into an array would take longer than the contour.
  const values = grid.data as unknown as number[];
  const found = find.contour(values, FULL / 2);
  const outlines: Outline[] = [];
  for (const polygon of found.coordinates) {
    for (const ring of polygon) {
      const points = ring.slice(0, -1).map(([x, y]): Place => [x - MARGIN_PX, y - MARGIN_PX]);
      if (points.length < 4 || Math.abs(ringArea(points)) < LEAST_RING_PX2) continue;
      outlines.push(fitted(points, smoothing, 1 / scale));
    }
  }
  return { outlines, width: plane.width, height: plane.height };
}

/** Contours need bare pixels all round, or they end at the edge. */
const MARGIN_PX = 1;

function prepared(plane: Coverage): { readonly plane: Coverage; readonly scale: number } {
  const longSide = Math.max(plane.width, plane.height);
  const scale = longSide < SMALL_LONG_SIDE_PX ? 2 : Math.min(1, TRACED_LONG_SIDE_PX / longSide);
  const width = Math.ceil(plane.width * scale) + 2 * MARGIN_PX;
  const height = Math.ceil(plane.height * scale) + 2 * MARGIN_PX;
  const data = new Uint8Array(width * height);
  for (let y = MARGIN_PX; y < height - MARGIN_PX; y++) {
    for (let x = MARGIN_PX; x < width - MARGIN_PX; x++) {
      const left = (x - MARGIN_PX) / scale;
      const top = (y - MARGIN_PX) / scale;
      data[y * width + x] =
        scale < 1
          ? meanOf(plane, left, top, 1 / scale)
          : between(plane, left + 0.5 / scale - 0.5, top + 0.5 / scale - 0.5);
    }
  }
  return { plane: { data, width, height }, scale };
}

/** Mean over a square of the plane with parts of pixels counted as such. */
function meanOf({ data, width, height }: Coverage, x: number, y: number, side: number): number {
  const right = Math.min(width, x + side);
  const bottom = Math.min(height, y + side);
  let sum = 0;
  for (let row = Math.floor(y); row < bottom; row++) {
    const tall = Math.min(bottom, row + 1) - Math.max(y, row);
    for (let column = Math.floor(x); column < right; column++) {
      const wide = Math.min(right, column + 1) - Math.max(x, column);
      sum += data[row * width + column] * wide * tall;
    }
  }
  return sum / (side * side);
}

function between({ data, width, height }: Coverage, x: number, y: number): number {
  const left = Math.min(Math.max(Math.floor(x), 0), width - 1);
  const top = Math.min(Math.max(Math.floor(y), 0), height - 1);
  const right = Math.min(left + 1, width - 1);
  const below = Math.min(top + 1, height - 1);
  const shareX = Math.min(Math.max(x - left, 0), 1);
  const shareY = Math.min(Math.max(y - top, 0), 1);
  const upper = data[top * width + left] * (1 - shareX) + data[top * width + right] * shareX;
  const lower = data[below * width + left] * (1 - shareX) + data[below * width + right] * shareX;
  return upper * (1 - shareY) + lower * shareY;
}

function ringArea(ring: readonly Place[]): number {
  let twice = 0;
  ring.forEach(([x, y], index) => {
    const [nextX, nextY] = ring[(index + 1) % ring.length];
    twice += x * nextY - nextX * y;
  });
  return twice / 2;
}

function fitted(ring: readonly Place[], smoothing: number, unit: number): Outline {
  const reach = Math.round(LEAST_AVERAGED + (MOST_AVERAGED - LEAST_AVERAGED) * smoothing ** 2);
  const cornerReach = CORNER_REACH + (SMOOTH_CORNER_REACH - CORNER_REACH) * smoothing ** 2;
  const corners = cornersOf(ring, Math.round(cornerReach));
  const points = averaged(ring, reach, corners);
  const error = (FAITHFUL_PX + (SMOOTH_PX - FAITHFUL_PX) * smoothing ** 2) ** 2;
  const cuts = cutsOf(points.length, corners);
  const curves: Outline['curves'][number][] = [];
  cuts.forEach((cut, index) => {
    const next = cuts[(index + 1) % cuts.length];
    const end = next > cut ? next : next + points.length;
    const piece = pieceOf(points, cut, end);
    const left = tangentAt(points, cut, corners, 1);
    const right = tangentAt(points, end % points.length, corners, -1);
    for (const [, a, b, c] of fitCubic<Place>(piece, left, right, error)) {
      curves.push([a[0], a[1], b[0], b[1], c[0], c[1]].map((value) => value * unit) as never);
    }
  });
  const [x, y] = points[cuts[0]];
  return { start: [x * unit, y * unit], curves };
}

/** The points from `from` to `to`, past the ring's end if need be, without two in one place. */
function pieceOf(points: readonly Place[], from: number, to: number): Place[] {
  const piece: Place[] = [];
  for (let index = from; index <= to; index++) {
    const point = points[index % points.length];
    const last = piece[piece.length - 1];
    if (!last || last[0] !== point[0] || last[1] !== point[1]) piece.push(point);
  }
  if (piece.length === 1) piece.push([piece[0][0] + 1e-3, piece[0][1]]);
  return piece;
}

/** Direction in which the curve leaves a cut: shared by both sides unless the cut is a corner. */
function tangentAt(
  points: readonly Place[],
  index: number,
  corners: Uint8Array,
  direction: 1 | -1,
): Place {
  const REACH = 2;
  const at = (step: number): Place =>
    points[(index + step + points.length * REACH) % points.length];
  const ahead = at(direction * REACH);
  const behind = corners[index] ? points[index] : at(-direction * REACH);
  if (ahead[0] === behind[0] && ahead[1] === behind[1]) return [direction, 0];
  return createTangent<Place>(ahead, behind);
}

/** 1 at each point where the contour turns sharply, one a corner. */
function cornersOf(ring: readonly Place[], reach: number): Uint8Array {
  const count = ring.length;
  const marks = new Uint8Array(count);
  if (count < 4 * reach) return marks;
  const turns = ring.map((point, index) => {
    const before = ring[(index - reach + count) % count];
    const after = ring[(index + reach) % count];
    const inward = Math.atan2(point[1] - before[1], point[0] - before[0]);
    const outward = Math.atan2(after[1] - point[1], after[0] - point[0]);
    const turn = Math.abs(outward - inward);
    return Math.min(turn, 2 * Math.PI - turn);
  });
  const limit = (CORNER_DEG * Math.PI) / 180;
  turns.forEach((turn, index) => {
    if (turn < limit) return;
    for (let step = -reach; step <= reach; step++) {
      const other = turns[(index + step + count) % count];
      if (other > turn || (other === turn && step < 0)) return;
    }
    marks[index] = 1;
  });
  return marks;
}

/** Each point as the mean of its neighbours along the contour, corners held in place. */
function averaged(ring: readonly Place[], reach: number, corners: Uint8Array): Place[] {
  const count = ring.length;
  return ring.map((point, index) => {
    if (corners[index]) return point;
    let [x, y, total] = [point[0], point[1], 1];
    for (const direction of [-1, 1]) {
      for (let step = 1; step <= reach && step < count / 4; step++) {
        const at = (index + direction * step + count) % count;
        const weight = 1 - step / (reach + 1);
        x += ring[at][0] * weight;
        y += ring[at][1] * weight;
        total += weight;
        if (corners[at]) break;
      }
    }
    return [x / total, y / total];
  });
}

/** Where the ring is cut into pieces: at its corners, and between them so that none is too long. */
function cutsOf(count: number, corners: Uint8Array): number[] {
  const sharp: number[] = [];
  corners.forEach((mark, index) => {
    if (mark) sharp.push(index);
  });
  if (sharp.length === 0) sharp.push(0);
  const cuts: number[] = [];
  sharp.forEach((from, index) => {
    const next = sharp[(index + 1) % sharp.length];
    const length = next > from ? next - from : next + count - from;
    // A ring without corners still needs two pieces: a curve cannot end where it starts.
    const pieces = Math.max(sharp.length === 1 ? 2 : 1, Math.ceil(length / PIECE_POINTS));
    for (let piece = 0; piece < pieces; piece++) {
      cuts.push((from + Math.round((length * piece) / pieces)) % count);
    }
  });
  return cuts.sort((a, b) => a - b);
}
