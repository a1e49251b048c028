import type { Box } from '../placement/geometry.ts';
import { componentsOf, type Component, type Components } from './components.ts';
import { FULL, type Coverage } from './plane.ts';

/** What was taken for dirt. */
export interface Speck {
  readonly box: Box;
  /** px² */
  readonly area: number;
}

export interface Cleaned {
  readonly plane: Coverage;
  readonly specks: readonly Speck[];
  readonly pinholes: number;
  /** Limits used, px², also where they were chosen automatically. */
  readonly speckPx2: number;
  readonly pinholePx2: number;
}

export interface CleaningWish {
  /** px² of this plane; null chooses by the width of the strokes. */
  readonly specks: number | null;
  readonly pinholes: number | null;
  /** Where ink is kept by hand, 1 a pixel, or null. */
  readonly kept: Uint8Array | null;
}

/** Coverage from which pixels hang together; paler ones only soften an edge. */
const LOW = 26;
/** An area that never gets darker than this is a shadow, a fold or a dust hair, not ink. */
const FAINT_PEAK = 115;
/** Pale pixels belong to ink up to this far from something dark: px, or a share of the stroke. */
const PALE_EDGE_PX = 3;
const PALE_EDGE_PER_STROKE = 0.15;
/** Much thinner than the strokes and never quite dark: a hair or a fold, whatever its length. */
const THIN_PER_STROKE = 0.2;
const THIN_PEAK = 205;
/** Automatic limits in relation to the square of the stroke width: a dot of an i has about 1. */
const SPECK_PER_STROKE2 = 0.2;
/**
 * A dot of this size at most, in relation to the square of the stroke width, is a speck where it is far
 * from all other ink: it would stretch the ink box, from which every inset counts. The dot of an i is
 * near its stem; the smaller it is, the nearer it must be.
 */
const DOT_PER_STROKE2 = 3;
const FAR_STROKES = 4;
const FAR_STROKES_PER_DOT = 10;
const PINHOLE_PER_STROKE2 = 0.06;
const LEAST_SPECK_PX2 = 2;
const HOLE_BELOW = 128;

/**
 * Takes away what is too small or too faint to be ink, with the soft edge it had, and fills holes
 * that are too small to be meant.
 */
export function cleaned(plane: Coverage, wish: CleaningWish): Cleaned {
  const inked = componentsOf(plane, LOW, FULL, true);
  const stroke = strokeWidth(inked.components);
  const speckPx2 = wish.specks ?? Math.max(LEAST_SPECK_PX2, SPECK_PER_STROKE2 * stroke ** 2);
  const pinholePx2 = wish.pinholes ?? PINHOLE_PER_STROKE2 * stroke ** 2;
  const byHand = wish.kept ? touched(inked, wish.kept, plane.width) : null;
  const isDirt = (part: Component): boolean =>
    part.area <= speckPx2 ||
    part.peak < FAINT_PEAK ||
    (part.peak < THIN_PEAK && (2 * part.area) / part.outline < THIN_PER_STROKE * stroke);
  const isDot = (part: Component): boolean => part.area <= DOT_PER_STROKE2 * stroke ** 2;
  const strokes = inked.components.filter((part) => !isDirt(part) && !isDot(part));
  // Where a limit was set by hand, it alone holds.
  const isAlone = (part: Component): boolean =>
    wish.specks === null && isDot(part) && isFarFrom(strokes, part, stroke);
  const isSpeck = inked.components.map(
    (part, index) => !byHand?.has(index) && (isDirt(part) || isAlone(part)),
  );
  const specks = inked.components
    .filter((part, index) => isSpeck[index] && part.area > 1)
    .map(({ box, area }) => ({ box, area }));
  const edge = Math.max(PALE_EDGE_PX, Math.round(PALE_EDGE_PER_STROKE * stroke));
  const kept = keptPixels(plane, inked, isSpeck, edge);
  if (wish.kept && byHand) bringBack(kept, plane, inked, byHand, wish.kept);
  const pinholes = filledPinholes(kept, pinholePx2);
  return { plane: kept, specks, pinholes, speckPx2, pinholePx2 };
}

function isFarFrom(strokes: readonly Component[], dot: Component, stroke: number): boolean {
  const far = (FAR_STROKES + (FAR_STROKES_PER_DOT * dot.area) / stroke ** 2) * stroke;
  return strokes.length > 0 && strokes.every(({ box }) => gapBetween(box, dot.box) > far);
}

function gapBetween(a: Box, b: Box): number {
  const across = Math.max(a.x - (b.x + b.width), b.x - (a.x + a.width), 0);
  const down = Math.max(a.y - (b.y + b.height), b.y - (a.y + a.height), 0);
  return Math.hypot(across, down);
}

/** Typical width of a stroke, px: of a long thin area it is twice its area over its outline. */
export function strokeWidth(components: readonly Component[]): number {
  let area = 0;
  let outline = 0;
  for (const part of components) {
    if (part.peak < FAINT_PEAK) continue;
    // Large areas speak for the hand; dust has much outline for little area, and is many.
    area += part.area * part.area;
    outline += part.outline * part.area;
  }
  return outline > 0 ? (2 * area) / outline : 0;
}

function touched({ runs }: Components, kept: Uint8Array, width: number): Set<number> {
  const found = new Set<number>();
  for (const { y, x, end, component } of runs) {
    if (found.has(component)) continue;
    for (let at = y * width + x; at < y * width + end; at++) {
      if (!kept[at]) continue;
      found.add(component);
      break;
    }
  }
  return found;
}

/**
 * Only what is dark in kept areas, and what is pale close by, so that edges stay soft while a fold
 * or a smear that runs into a stroke goes.
 */
function keptPixels(
  plane: Coverage,
  { runs }: Components,
  isSpeck: readonly boolean[],
  edgePx: number,
): Coverage {
  const { data, width, height } = plane;
  const out = new Uint8Array(data.length);
  const copyAround = (y: number, from: number, to: number): void => {
    const left = Math.max(0, from - edgePx);
    const right = Math.min(width, to + edgePx);
    const bottom = Math.min(height - 1, y + edgePx);
    for (let row = Math.max(0, y - edgePx); row <= bottom; row++) {
      out.set(data.subarray(row * width + left, row * width + right), row * width + left);
    }
  };
  for (const { y, x, end, component } of runs) {
    if (isSpeck[component]) continue;
    let from = -1;
    for (let at = x; at <= end; at++) {
      const isDark = at < end && data[y * width + at] >= FAINT_PEAK;
      if (isDark && from < 0) from = at;
      if (isDark || from < 0) continue;
      copyAround(y, from, at);
      from = -1;
    }
  }
  // A speck beside a stroke may have come along with its edge.
  for (const { y, x, end, component } of runs) {
    if (isSpeck[component]) out.fill(0, y * width + x, y * width + end);
  }
  return { data: out, width, height };
}

/** What a hand asked for comes back whole, however pale it is; changes the plane. */
function bringBack(
  { data, width }: Coverage,
  plane: Coverage,
  { runs }: Components,
  byHand: ReadonlySet<number>,
  kept: Uint8Array,
): void {
  for (const { y, x, end, component } of runs) {
    if (!byHand.has(component)) continue;
    data.set(plane.data.subarray(y * width + x, y * width + end), y * width + x);
  }
  for (let at = 0; at < data.length; at++) if (kept[at]) data[at] = plane.data[at];
}

/** Fills small holes in place and says how many. */
function filledPinholes(plane: Coverage, limitPx2: number): number {
  if (limitPx2 <= 0) return 0;
  const { data, width, height } = plane;
  const { runs, components } = componentsOf(plane, 0, HOLE_BELOW - 1, false);
  const isHole = components.map(
    ({ area, box }) =>
      area <= limitPx2 &&
      box.x > 0 &&
      box.y > 0 &&
      box.x + box.width < width &&
      box.y + box.height < height,
  );
  for (const { y, x, end, component } of runs) {
    if (isHole[component]) data.fill(FULL, y * width + x, y * width + end);
  }
  return isHole.filter(Boolean).length;
}
