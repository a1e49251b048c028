import type { LiftSettings } from '../contract/lift.ts';
import type { Raster } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';
import { filledOutlines } from './filledOutlines.ts';
import { blackInk, type LiftedInk } from './lift.ts';
import { pathData, type Outlines } from './outline.ts';
import { FULL, type Coverage } from './plane.ts';
import { traced } from './traced.ts';

/** Outlines of a lift and how far they are from its pixels. */
export interface TracedInk {
  readonly outlines: Outlines;
  /** Share of the ink that the outlines put on the wrong side of half coverage. */
  readonly amiss: number;
}

/** Outlines that disagree with more of the ink than this have lost something. */
export const MOST_AMISS = 0.03;

/** The ink as outlines, or null where it keeps its colours. */
export function tracedInk(ink: LiftedInk, settings: LiftSettings): TracedInk | null {
  if (ink.coloured) return null;
  const outlines = traced(ink.coverage, settings.smoothing);
  return { outlines, amiss: shareAmiss(ink.coverage, outlines) };
}

/** Whether the outlines are what is kept of a lift; its pixels are kept beside them. */
export function keepsOutlines(traced: TracedInk | null, { form }: LiftSettings): boolean {
  if (!traced || traced.outlines.outlines.length === 0) return false;
  return form === 'outlines' || (form === 'auto' && traced.amiss <= MOST_AMISS);
}

/** Pixels that are clearly ink in one and clearly not in the other, as a share of the ink. */
function shareAmiss(plane: Coverage, { outlines }: Outlines): number {
  const drawn = filledOutlines(outlines, plane);
  const half = FULL / 2;
  let ink = 0;
  let amiss = 0;
  for (let at = 0; at < drawn.data.length; at++) {
    if (plane.data[at] >= half) ink++;
    if (Math.abs(plane.data[at] - drawn.data[at]) > half) amiss++;
  }
  return ink > 0 ? amiss / ink : 1;
}

/** A plain SVG of black outlines. */
export function outlinesSvg({ outlines, width, height }: Outlines): string {
  return filledSvg({ width, height }, pathData(outlines));
}

/** A plain SVG with one black path. @param path the `d` attribute */
export function filledSvg({ width, height }: Size, path: string): string {
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" ` +
    `width="${width}" height="${height}"><path fill="#000" d="${path}"/></svg>`
  );
}

/** The pixels of a lift: black ink, alpha carrying the coverage, or its own colours. */
export function inkRaster(ink: LiftedInk): Raster {
  return ink.coloured ?? blackInk(ink.coverage);
}
