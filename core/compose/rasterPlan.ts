import type { Copy } from '../placement/placeMark.ts';
import { centreOf, rotatedSize, type Box, type Size } from '../placement/geometry.ts';

/**
 * How a placement becomes pixels: which rasters of the mark are needed and where each is laid.
 * Rasters are shared as widely as possible: a mark that lies wholly inside the frame is drawn once
 * for its size and angle, on a whole-pixel canvas centred on it, and laid at the nearest whole
 * pixel. That moves it by at most half a pixel, and in a batch most photos share the one raster.
 */

/** A raster of the mark: the canvas, and the mark's place and size on it. */
export interface RasterSpec {
  /** Canvas, whole pixels. */
  readonly width: number;
  readonly height: number;
  /** Centre of the ink box on the canvas, pixels from its top left. */
  readonly centreX: number;
  readonly centreY: number;
  /** The unrotated ink box. */
  readonly markWidth: number;
  readonly markHeight: number;
  /** Degrees clockwise. */
  readonly rotation: number;
}

export interface RasterPlacing {
  readonly spec: RasterSpec;
  /** Whole pixels of the frame; the canvas may reach over its edges. */
  readonly left: number;
  readonly top: number;
}

/**
 * What is drawn beyond the ink box, such as a shadow: on each side, as shares of the ink box's
 * width and height.
 */
export interface Bleed {
  readonly x: number;
  readonly y: number;
}

export const NO_BLEED: Bleed = Object.freeze({ x: 0, y: 0 });

/** The bleed of artwork that shows `natural`: the wider side counts for both. */
export function bleedOf(ink: Box, natural: Box): Bleed {
  const right = natural.x + natural.width - ink.x - ink.width;
  const below = natural.y + natural.height - ink.y - ink.height;
  return {
    x: Math.max(0, ink.x - natural.x, right) / ink.width,
    y: Math.max(0, ink.y - natural.y, below) / ink.height,
  };
}

/** Room round the ink box for smoothed edges, px. */
const MARGIN_PX = 1;

/** A canvas of more pixels than this and larger than what is seen of it is cut to the frame. */
const WHOLE_CANVAS_PIXELS = 4_000_000;

export function planRasters(
  frame: Size,
  copies: readonly Copy[],
  bleed: Bleed = NO_BLEED,
): RasterPlacing[] {
  return copies.map((copy) => planRaster(frame, copy, bleed)).filter((placing) => placing !== null);
}

function planRaster(frame: Size, copy: Copy, bleed: Bleed): RasterPlacing | null {
  const centre = centreOf(copy.box);
  const drawn = {
    width: copy.size.width * (1 + 2 * bleed.x),
    height: copy.size.height * (1 + 2 * bleed.y),
  };
  const box = bleed === NO_BLEED ? copy.box : rotatedSize(drawn, copy.rotation);
  const width = Math.ceil(box.width) + 2 * MARGIN_PX;
  const height = Math.ceil(box.height) + 2 * MARGIN_PX;
  const left = Math.round(centre.x - width / 2);
  const top = Math.round(centre.y - height / 2);
  const mark = {
    markWidth: copy.size.width,
    markHeight: copy.size.height,
    rotation: copy.rotation,
  };
  if (width * height <= WHOLE_CANVAS_PIXELS) {
    return { spec: { width, height, centreX: width / 2, centreY: height / 2, ...mark }, left, top };
  }
  const x0 = Math.max(0, left);
  const y0 = Math.max(0, top);
  const x1 = Math.min(frame.width, left + width);
  const y1 = Math.min(frame.height, top + height);
  if (x0 >= x1 || y0 >= y1) return null;
  const window = { width: x1 - x0, height: y1 - y0 };
  return {
    spec: { ...window, centreX: centre.x - x0, centreY: centre.y - y0, ...mark },
    left: x0,
    top: y0,
  };
}
