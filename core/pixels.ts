/** Pixels in the core: plain arrays, row by row from the top left. */
export interface Samples<Data extends Uint8ClampedArray | Uint16Array> {
  readonly data: Data;
  readonly width: number;
  readonly height: number;
  /** 3 = red, green, blue; 4 = the same and alpha, not premultiplied. */
  readonly channels: 3 | 4;
}

/** 8 bits a sample, sRGB: what is looked at, measured and lifted. */
export type Pixels = Samples<Uint8ClampedArray>;

/** A mark as pixels: always with alpha, not premultiplied. */
export interface Raster extends Pixels {
  readonly channels: 4;
}

/** Bits a sample: 0 to 255, or 0 to 65,535. */
export type Depth = 8 | 16;

/** A photo on its way to an output, in the output's depth and colour space. */
export type Canvas = { readonly space: ColourSpace } & (
  | ({ readonly depth: 8 } & Samples<Uint8ClampedArray>)
  | ({ readonly depth: 16 } & Samples<Uint16Array>)
);

/** What the numbers of a canvas mean: sRGB, or the profile that the photo came with. */
export const COLOUR_SPACES = ['srgb', 'photo'] as const;
export type ColourSpace = (typeof COLOUR_SPACES)[number];

export const OPAQUE = 255;
/** The highest value of a sample of 16 bits. */
export const OPAQUE_16 = 65_535;
