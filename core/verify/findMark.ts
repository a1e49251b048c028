import { boxAroundAll, type Box } from '../placement/geometry.ts';
import { differenceOutside, type Difference, type Differences } from './cells.ts';

/** Where an output differs from its photo as a mark does, and how far everywhere else. */
export interface FoundMark {
  /** In cells, round all copies; null: nothing differs like that. */
  readonly box: Box | null;
  readonly elsewhere: Difference;
  /** Groups of cells that differ as a mark does, and are none of its copies. */
  readonly others: number;
}

/** Cells this far apart differ, however quiet the rest is. */
const LEAST_DIFFERENCE = 8;
/** And this many times as far as those that lie in the middle. */
const ABOVE_MEDIAN = 6;
/** Of what the photo changes by round a cell, that may be lost of it. */
const DETAIL_SHARE = 0.5;
/** Letters and words this near each other are of one mark, as a share of the longer side. */
const REACH = 0.02;
/** Fewer cells than this are noise of the codec at a hard edge. */
const LEAST_CELLS = 4;
/** Cells of a part of the photo that was changed, rather than lost by a coarse codec. */
const PART_CELLS = 24;
/** Of copies of a mark, sides differ by rounding, and by what lies under them. */
const COPY_TOLERANCE = 0.25;

/**
 * Finds the mark of which nothing is known. Cells that differ are put together where they are near each
 * other; the group that differs most is the mark, groups of its size, or cut off by the edge, are copies
 * of it. Whatever else differs counts as elsewhere.
 *
 * @param detail of the photo, by `detailOf`
 */
export function findMark(differences: Differences, detail: Uint8Array): FoundMark {
  const groups = groupsOf(differences, detail);
  const [main, ...others] = groups.sort((a, b) => b.weight - a.weight);
  if (!main) return { box: null, elsewhere: differenceOutside(differences, []), others: 0 };
  const copies = [main, ...others.filter((other) => isCopy(other.box, main.box, differences))];
  const boxes = copies.map(({ box }) => box);
  return {
    box: boxAroundAll(boxes),
    elsewhere: differenceOutside(differences, boxes.map(grown)),
    others: groups.filter((group) => group.cells >= PART_CELLS && !copies.includes(group)).length,
  };
}

interface Group {
  readonly box: Box;
  /** Sum of how far its cells are apart. */
  readonly weight: number;
  readonly cells: number;
}

function groupsOf({ data, width, height }: Differences, detail: Uint8Array): Group[] {
  const least = Math.max(LEAST_DIFFERENCE, ABOVE_MEDIAN * medianOf(data));
  const reach = Math.max(1, Math.round(REACH * Math.max(width, height)));
  const isSame = (cell: number): boolean => data[cell] < least + DETAIL_SHARE * detail[cell];
  const seen = new Uint8Array(data.length);
  const groups: Group[] = [];
  for (let start = 0; start < data.length; start++) {
    if (seen[start] || isSame(start)) continue;
    seen[start] = 1;
    const waiting = [start];
    let [left, top, right, bottom] = [width, height, 0, 0];
    let [cells, weight] = [0, 0];
    for (let cell = waiting.pop(); cell !== undefined; cell = waiting.pop()) {
      const [x, y] = [cell % width, Math.floor(cell / width)];
      [left, right] = [Math.min(left, x), Math.max(right, x)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
      cells++;
      weight += data[cell];
      for (let row = Math.max(0, y - reach); row <= Math.min(height - 1, y + reach); row++) {
        const end = row * width + Math.min(width - 1, x + reach);
        for (let near = row * width + Math.max(0, x - reach); near <= end; near++) {
          if (seen[near] || isSame(near)) continue;
          seen[near] = 1;
          waiting.push(near);
        }
      }
    }
    if (cells < LEAST_CELLS) continue;
    groups.push({
      box: { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
      ...{ weight, cells },
    });
  }
  return groups;
}

function medianOf(data: Uint8Array): number {
  const counts = new Uint32Array(256);
  for (const value of data) counts[value]++;
  let seen = 0;
  return counts.findIndex((count) => (seen += count) * 2 >= data.length);
}

function isCopy(box: Box, main: Box, frame: Differences): boolean {
  const isNear = (side: number, other: number): boolean =>
    Math.abs(side - other) <= Math.max(2, COPY_TOLERANCE * other);
  if (isNear(box.width, main.width) && isNear(box.height, main.height)) return true;
  const isAtEdge =
    box.x === 0 ||
    box.y === 0 ||
    box.x + box.width === frame.width ||
    box.y + box.height === frame.height;
  return isAtEdge && box.width <= main.width + 2 && box.height <= main.height + 2;
}

/** With the cells round it that are half of the mark: its soft edge, and what a codec smears of it. */
const grown = ({ x, y, width, height }: Box): Box => ({
  ...{ x: x - RIM, y: y - RIM, width: width + 2 * RIM, height: height + 2 * RIM },
});
const RIM = 4;
