import type { Size } from '../placement/geometry.ts';

/** One sample a pixel, 0 to 255: how much of the pixel the ink covers. */
export interface Coverage extends Size {
  readonly data: Uint8Array;
}

export const FULL = 255;

/** Reflectance, pixel ÷ paper in linear light, in units of 1 / `REFLECTANCE_ONE`. */
export interface Reflectance extends Size {
  readonly data: Uint16Array;
}

export const REFLECTANCE_ONE = 32_768;
export const REFLECTANCE_STEPS = 65_536;
