import type { Size } from '../placement/geometry.ts';

/** A closed outline of cubic Bézier curves, each starting where the one before ended. */
export interface Outline {
  readonly start: readonly [number, number];
  /** Two control points and an end each: x1, y1, x2, y2, x, y. */
  readonly curves: readonly (readonly [number, number, number, number, number, number])[];
}

/** Filled outlines; those that run the other way round are holes (nonzero and even-odd agree). */
export interface Outlines extends Size {
  readonly outlines: readonly Outline[];
}

/** Decimals of a path: a hundredth of a pixel is finer than any eye. */
const DECIMALS = 2;

/** The `d` attribute of an SVG path. */
export function pathData(outlines: readonly Outline[]): string {
  return outlines
    .map(({ start, curves }) => {
      const parts = curves.map((curve) => `C${curve.map(short).join(' ')}`);
      return `M${short(start[0])} ${short(start[1])}${parts.join('')}Z`;
    })
    .join('');
}

function short(value: number): string {
  return String(Number(value.toFixed(DECIMALS)));
}
