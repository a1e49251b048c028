import { boxAroundAll, type Box } from '../placement/geometry.ts';
import { differenceOutside, type Difference, type Differences } from './cells.ts';

/** Where an output differs from its photo as marks do, and how far everywhere else. */
export interface FoundMarks {
  /** In cells, one for each mark, round all its copies; that which differs most is the first. */
  readonly boxes: readonly Box[];
  readonly elsewhere: Difference;
  /** Groups of cells that differ as a mark does, and belong to none of these. */
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
/**
 * Words of a mark lie as far apart as they are large, a mark and a fault anywhere: such groups are of one mark, up
 * to so many times the shorter side of the smaller one.
 */
const PART_REACH = 2;
/** Of copies of a mark, sides differ by rounding, and by what lies under them. */
const COPY_TOLERANCE = 0.25;

/**
 * Finds marks of which nothing is known. Cells that differ are put together where they are near each
 * other; the group that differs most is a mark, with the groups round it that are its other words; groups of
 * their size, or cut off by the edge, are copies of it. Whatever else differs counts as elsewhere.
 *
 * @param detail of the photo, by `detailOf`
 * @param most marks that were laid; those that touch are found as one
 */
export function findMarks(differences: Differences, detail: Uint8Array, most = 1): FoundMarks {
  let left = groupsOf(differences, detail).sort((a, b) => b.weight - a.weight);
  const marks: Group[][] = [];
  while (marks.length < most && left.length > 0) {
    const mark = groupsOfMark(left, differences);
    marks.push(mark);
    left = left.filter((group) => !mark.includes(group));
  }
  const marked = marks.flat().map(({ box }) => grown(box));
  return {
    boxes: marks.flatMap((mark) => boxAroundAll(mark.map(({ box }) => box)) ?? []),
    elsewhere: differenceOutside(differences, marked),
    others: left.filter(({ cells }) => cells >= PART_CELLS).length,
  };
}

/** The first group, what belongs to it, and its copies. */
function groupsOfMark([main, ...others]: readonly Group[], frame: Differences): Group[] {
  const parts = [main];
  let rest = others;
  for (const part of parts) {
    const near = rest.filter((group) => isPartBeside(group.box, part.box));
    parts.push(...near);
    rest = rest.filter((group) => !near.includes(group));
  }
  const isOne = ({ box }: Group) => parts.some((part) => isCopy(box, part.box, frame));
  return [...parts, ...rest.filter(isOne)];
}

function isPartBeside(some: Box, other: Box): boolean {
  const between = (at: number, size: number, otherAt: number, otherSize: number): number =>
    Math.max(0, at - (otherAt + otherSize), otherAt - (at + size));
  const apart = Math.hypot(
    between(some.x, some.width, other.x, other.width),
    between(some.y, some.height, other.y, other.height),
  );
  const shorter = Math.min(some.width, some.height, other.width, other.height);
  return apart <= PART_REACH * shorter;
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
