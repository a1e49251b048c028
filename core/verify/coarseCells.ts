import type { Canvas, Pixels } from '../pixels.ts';
import type { Box, Size } from '../placement/geometry.ts';

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
  const { compared } = coarseGrid(canvas);
  const data = new Uint8ClampedArray(compared.width * compared.height * 3);
  writeCells(canvas, { x: 0, y: 0, width: canvas.width, height: canvas.height }, data);
  return { data, ...compared, channels: 3 };
}

/**
 * Those of a canvas that was drawn on, of which it is known what they were before: of a large one, looking
 * at all of them again costs as much as drawing on it.
 *
 * @param boxes that something was drawn in, px of the canvas
 */
export function changedCells(before: Pixels, canvas: Canvas, boxes: readonly Box[]): Pixels {
  const data = Uint8ClampedArray.from(before.data);
  for (const box of boxes) writeCells(canvas, box, data);
  return { ...before, data };
}

/** The cells that a box touches. */
function writeCells(canvas: Canvas, box: Box, into: Uint8ClampedArray): void {
  const { cells, step, compared } = coarseGrid(canvas);
  const [across, down] = [canvas.width / cells.width, canvas.height / cells.height];
  const columns = cellsAlong(box.x, box.width, across * step, compared.width);
  const rows = cellsAlong(box.y, box.height, down * step, compared.height);
  if (columns.from >= columns.to) return;
  const spans = Array.from({ length: columns.to - columns.from }, (_, index) =>
    spanOf((columns.from + index) * step, across),
  );
  for (let y = rows.from; y < rows.to; y++) {
    const means = rowMeans(canvas, spanOf(y * step, down), spans);
    into.set(means, (y * compared.width + columns.from) * 3);
  }
}

interface Span {
  readonly from: number;
  readonly to: number;
}

/** Whole px of a cell along a side, at least one. */
function spanOf(cell: number, px: number): Span {
  const from = Math.round(cell * px);
  return { from, to: Math.max(Math.round((cell + 1) * px), from + 1) };
}

/** Compared cells along a side that a stretch may touch. @param px from one of them to the next */
function cellsAlong(start: number, length: number, px: number, count: number) {
  // Edges of cells are rounded, so that one may reach half a pixel farther than it is reckoned here.
  const from = Math.floor((start - 1) / px);
  const to = Math.ceil((start + length + 1) / px);
  // A mark may lie wholly outside of the photo, on either side of it.
  return { from: Math.min(count, Math.max(0, from)), to: Math.min(count, to) };
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

/**
 * Means of a row of cells. Row of pixels after row, not cell after cell: the pixels of a photo lie in memory
 * so, and are waited for otherwise.
 */
function rowMeans(canvas: Canvas, rows: Span, spans: readonly Span[]): Float64Array {
  const { data, width, channels, depth } = canvas;
  const sums = new Float64Array(spans.length * 3);
  const opaque = depth === 16 ? 65_535 : 255;
  for (let y = rows.from; y < rows.to; y++) {
    for (let cell = 0, at = 0; cell < spans.length; cell++, at += 3) {
      const { from, to } = spans[cell];
      const end = (y * width + to) * channels;
      let red = 0;
      let green = 0;
      let blue = 0;
      for (let place = (y * width + from) * channels; place < end; place += channels) {
        if (channels === 3) {
          red += data[place];
          green += data[place + 1];
          blue += data[place + 2];
          continue;
        }
        const alpha = data[place + 3] / opaque;
        const white = (1 - alpha) * opaque;
        red += data[place] * alpha + white;
        green += data[place + 1] * alpha + white;
        blue += data[place + 2] * alpha + white;
      }
      sums[at] += red;
      sums[at + 1] += green;
      sums[at + 2] += blue;
    }
  }
  for (let cell = 0, at = 0; cell < spans.length; cell++, at += 3) {
    const { from, to } = spans[cell];
    // Of 16 bits, the upper 8, as decoders give them.
    const count = (to - from) * (rows.to - rows.from) * (depth === 16 ? 256 : 1);
    for (let c = 0; c < 3; c++) sums[at + c] /= count;
  }
  return sums;
}
