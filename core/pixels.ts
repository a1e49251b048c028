/** Pixels in the core: plain arrays, row by row from the top left, 8 bits a sample. */

export interface Pixels {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
  /** 3 = red, green, blue; 4 = the same and alpha, not premultiplied. */
  readonly channels: 3 | 4;
}

/** A mark as pixels: always with alpha, not premultiplied. */
export interface Raster extends Pixels {
  readonly channels: 4;
}

export const OPAQUE = 255;
