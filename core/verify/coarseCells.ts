import type { Canvas, Pixels } from '../pixels.ts';
import type { Box, Size } from '../placement/geometry.ts';

/**
 * Cells of an output that was just written: coarser than those in which a mark is looked for, and of
 * large outputs only some, evenly spread, since each costs time in every run. What is to be written is
 * known to the pixel, so that little is needed to see that it was.
 */

/** Px of a side of a cell; the most is a block of JPEG, whose mean stands in the file. */
const CELL_PX = Object.freeze([8, 4, 2, 1] as const);
/** Cells of the longer side, at least, where there are so many pixels. */
const LEAST_ACROSS = 16;
/** Cells that are compared, at most. */
const MOST_CELLS = 20_000;

/** How a frame is cut into cells, and which of them are compared. */
export interface CoarseGrid {
  /** Of a side of each, from the frame's left and top; what is left at its other sides is in none. */
  readonly px: (typeof CELL_PX)[number];
  /** All cells. */
  readonly cells: Size;
  /** Every so many cells each way are compared. */
  readonly step: number;
  /** Those that are. */
  readonly compared: Size;
}

export function coarseGrid({ width, height }: Size): CoarseGrid {
  const most = Math.min(Math.max(width, height) / LEAST_ACROSS, Math.min(width, height));
  const px = CELL_PX.find((side) => side <= most) ?? 1;
  const cells = { width: Math.floor(width / px), height: Math.floor(height / px) };
  const step = Math.ceil(Math.sqrt((cells.width * cells.height) / MOST_CELLS));
  const compared = {
    width: Math.ceil(cells.width / step),
    height: Math.ceil(cells.height / step),
  };
  return { px, cells, step, compared };
}

/** A box of a frame in the cells of it that are compared. */
export function comparedBox({ x, y, width, height }: Box, { px, step }: CoarseGrid): Box {
  const side = px * step;
  return { x: x / side, y: y / side, width: width / side, height: height / side };
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
  const grid = coarseGrid(canvas);
  const { px, step, compared } = grid;
  const { x, y, width, height } = comparedBox(box, grid);
  const columns = cellsAlong(x, width, compared.width);
  const rows = cellsAlong(y, height, compared.height);
  if (columns.from >= columns.to) return;
  const spans = Array.from({ length: columns.to - columns.from }, (_, index) =>
    spanOf((columns.from + index) * step, px),
  );
  for (let row = rows.from; row < rows.to; row++) {
    const means = rowMeans(canvas, spanOf(row * step, px), spans);
    into.set(means, (row * compared.width + columns.from) * 3);
  }
}

interface Span {
  readonly from: number;
  readonly to: number;
}

const spanOf = (cell: number, px: number): Span => ({ from: cell * px, to: (cell + 1) * px });

/** Of so many cells along a side, those that a stretch may touch. A mark may lie wholly beside all of them. */
function cellsAlong(start: number, length: number, count: number): Span {
  const from = Math.min(count, Math.max(0, Math.floor(start)));
  return { from, to: Math.min(count, Math.ceil(start + length)) };
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
  const sums = new Float64Array(spans.length * 3);
  for (let y = rows.from; y < rows.to; y++) addRow(canvas, y, spans, sums);
  for (let cell = 0, at = 0; cell < spans.length; cell++, at += 3) {
    const { from, to } = spans[cell];
    // Of 16 bits, the upper 8, as decoders give them.
    const count = (to - from) * (rows.to - rows.from) * (canvas.depth === 16 ? 256 : 1);
    for (let c = 0; c < 3; c++) sums[at + c] /= count;
  }
  return sums;
}

/** A row of pixels, to the sums of its cells. */
function addRow(canvas: Canvas, y: number, spans: readonly Span[], sums: Float64Array): void {
  const { data, width, channels, depth } = canvas;
  const opaque = depth === 16 ? 65_535 : 255;
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
