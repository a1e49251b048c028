import type { Pixels } from '../pixels.ts';
import type { Box, Size } from '../placement/geometry.ts';

/**
 * Photos are compared as cells, each the mean of a few pixels each way: what a codec loses is noise that
 * mostly evens out in a cell, a mark or a fault is not.
 */

/** Cells of the longer side that are aimed at. */
const CELLS_ACROSS = 700;
/** Px of a side of a cell: 8 is a block of JPEG, whose mean its decoder has almost for nothing. */
const LEAST_CELL_PX = 2;
const MOST_CELL_PX = 8;
/** Photos smaller than this are compared pixel by pixel. */
const TINY_PX = 128;

/** A frame as cells. */
export function cellFrame({ width, height }: Size): Size {
  const long = Math.max(width, height);
  const wished = Math.min(MOST_CELL_PX, Math.max(LEAST_CELL_PX, Math.floor(long / CELLS_ACROSS)));
  const px = long < TINY_PX ? 1 : wished;
  return {
    width: Math.max(1, Math.round(width / px)),
    height: Math.max(1, Math.round(height / px)),
  };
}

/** How far two photos are apart in each cell: the most of red, green and blue, 0 to 255. */
export interface Differences extends Size {
  readonly data: Uint8Array;
}

/** @param some, other cells of the same frame */
export function differencesOf(some: Pixels, other: Pixels): Differences {
  const { width, height } = some;
  const data = new Uint8Array(width * height);
  for (let cell = 0; cell < data.length; cell++) {
    const [at, otherAt] = [cell * some.channels, cell * other.channels];
    data[cell] = Math.max(
      Math.abs(some.data[at] - other.data[otherAt]),
      Math.abs(some.data[at + 1] - other.data[otherAt + 1]),
      Math.abs(some.data[at + 2] - other.data[otherAt + 2]),
    );
  }
  return { data, width, height };
}

/**
 * How much a photo changes from each cell to those round it, 0 to 255: codecs and resizing lose most
 * where that is much.
 */
export function detailOf({ data, width, height, channels }: Pixels): Uint8Array {
  const detail = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      for (let c = 0; c < 3; c++) {
        let [least, most] = [255, 0];
        for (let row = Math.max(0, y - 1); row <= Math.min(height - 1, y + 1); row++) {
          for (let column = Math.max(0, x - 1); column <= Math.min(width - 1, x + 1); column++) {
            const level = data[(row * width + column) * channels + c];
            least = Math.min(least, level);
            most = Math.max(most, level);
          }
        }
        detail[y * width + x] = Math.max(detail[y * width + x], most - least);
      }
    }
  }
  return detail;
}

/** Of cells of 0 to 255. */
export interface Difference {
  readonly mean: number;
  readonly worst: number;
}

/** Of all cells but those that a box touches. @param boxes in cells */
export function differenceOutside(differences: Differences, boxes: readonly Box[]): Difference {
  return differenceWhere(differences, boxes, 0);
}

/** Of the cells that a box touches. */
export function differenceInside(differences: Differences, boxes: readonly Box[]): Difference {
  return differenceWhere(differences, boxes, 1);
}

function differenceWhere(
  { data, width, height }: Differences,
  boxes: readonly Box[],
  where: 0 | 1,
): Difference {
  const isInside = new Uint8Array(data.length);
  for (const { x, y, width: w, height: h } of boxes) {
    const [left, right] = [Math.max(0, Math.floor(x)), Math.min(width, Math.ceil(x + w))];
    const [top, bottom] = [Math.max(0, Math.floor(y)), Math.min(height, Math.ceil(y + h))];
    for (let row = top; row < bottom && left < right; row++) {
      isInside.fill(1, row * width + left, row * width + right);
    }
  }
  let [sum, count, worst] = [0, 0, 0];
  for (let cell = 0; cell < data.length; cell++) {
    if (isInside[cell] !== where) continue;
    sum += data[cell];
    count++;
    if (data[cell] > worst) worst = data[cell];
  }
  return { mean: count === 0 ? 0 : sum / count, worst };
}

/** How much of a change that was to be made was made. */
export interface ChangeFound {
  /** 1: all of it, 0: none, whatever a codec lost beside that. */
  readonly share: number;
  /** The most that was to be changed of a cell, levels. */
  readonly most: number;
}

/** @param before, after cells without and with the change @param found cells of the file */
export function changeFound(before: Pixels, after: Pixels, found: Pixels): ChangeFound {
  let [made, wished, most] = [0, 0, 0];
  for (let at = 0; at < after.data.length; at++) {
    const change = after.data[at] - before.data[at];
    if (change === 0) continue;
    made += (found.data[at] - before.data[at]) * change;
    wished += change * change;
    most = Math.max(most, Math.abs(change));
  }
  return { share: wished === 0 ? 0 : made / wished, most };
}

/** A box of a frame in its cells, or of cells in another frame. */
export function scaledBox({ x, y, width, height }: Box, from: Size, to: Size): Box {
  const [across, down] = [to.width / from.width, to.height / from.height];
  return { x: x * across, y: y * down, width: width * across, height: height * down };
}
