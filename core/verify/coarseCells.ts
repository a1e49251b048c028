import type { Canvas, Pixels } from '../pixels.ts';
import type { Size } from '../placement/geometry.ts';

/**
 * Cells of an output that was just written: coarser than those in which a mark is looked for, and of
 * large outputs only some, evenly spread, since each costs time in every run. What is to be written is
 * known to the pixel, so that little is needed to see that it was.
 */

/** Px of a side of a cell, at most: a block of JPEG, which its decoder shrinks while it decodes. */
const MOST_CELL_PX = 8;
/** Cells of the longer side, at least, where there are so many pixels. */
const LEAST_ACROSS = 128;
/** Cells that are compared, at most. */
const MOST_CELLS = 20_000;

/** How a frame is cut into cells, and which of them are compared. */
export interface CoarseGrid {
  /** All cells. */
  readonly cells: Size;
  /** Every so many cells each way are compared. */
  readonly step: number;
  /** Those that are. */
  readonly compared: Size;
}

export function coarseGrid({ width, height }: Size): CoarseGrid {
  const long = Math.max(width, height);
  const px = Math.min(MOST_CELL_PX, Math.max(1, Math.floor(long / LEAST_ACROSS)));
  // Rounded down, so that a decoder may shrink by that much and no less.
  const cells = {
    width: Math.max(1, Math.floor(width / px)),
    height: Math.max(1, Math.floor(height / px)),
  };
  const step = Math.ceil(Math.sqrt((cells.width * cells.height) / MOST_CELLS));
  const compared = {
    width: Math.ceil(cells.width / step),
    height: Math.ceil(cells.height / step),
  };
  return { cells, step, compared };
}

/** Those of a canvas; transparent parts on white. */
export function canvasCells(canvas: Canvas): Pixels {
  const { cells, step, compared } = coarseGrid(canvas);
  const data = new Uint8ClampedArray(compared.width * compared.height * 3);
  const [across, down] = [canvas.width / cells.width, canvas.height / cells.height];
  let at = 0;
  for (let row = 0; row < cells.height; row += step) {
    const [top, bottom] = [Math.round(row * down), Math.round((row + 1) * down)];
    for (let column = 0; column < cells.width; column += step, at += 3) {
      const [left, right] = [Math.round(column * across), Math.round((column + 1) * across)];
      writeMean(canvas, left, top, Math.max(right, left + 1), Math.max(bottom, top + 1), data, at);
    }
  }
  return { data, ...compared, channels: 3 };
}

/** Of all cells of a file, those that are compared. */
export function comparedCells({ data, width }: Pixels, frame: Size): Pixels {
  const { step, compared } = coarseGrid(frame);
  const result = new Uint8ClampedArray(compared.width * compared.height * 3);
  let at = 0;
  for (let row = 0; row < compared.height; row++) {
    let from = row * step * width * 3;
    for (let column = 0; column < compared.width; column++, from += step * 3) {
      result[at++] = data[from];
      result[at++] = data[from + 1];
      result[at++] = data[from + 2];
    }
  }
  return { data: result, ...compared, channels: 3 };
}

function writeMean(
  { data, width, channels, depth }: Canvas,
  left: number,
  top: number,
  right: number,
  bottom: number,
  into: Uint8ClampedArray,
  at: number,
): void {
  let [red, green, blue] = [0, 0, 0];
  const opaque = depth === 16 ? 65_535 : 255;
  for (let y = top; y < bottom; y++) {
    let from = (y * width + left) * channels;
    for (let x = left; x < right; x++, from += channels) {
      if (channels === 3) {
        red += data[from];
        green += data[from + 1];
        blue += data[from + 2];
        continue;
      }
      const alpha = data[from + 3] / opaque;
      const white = (1 - alpha) * opaque;
      red += data[from] * alpha + white;
      green += data[from + 1] * alpha + white;
      blue += data[from + 2] * alpha + white;
    }
  }
  // Of 16 bits, the upper 8, as decoders give them.
  const count = (right - left) * (bottom - top) * (depth === 16 ? 256 : 1);
  into[at] = red / count;
  into[at + 1] = green / count;
  into[at + 2] = blue / count;
}
