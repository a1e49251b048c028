import type { FileRule } from '#core/contract/delivery';
import type { Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import {
  changeFound,
  differenceInside,
  differenceOutside,
  differencesOf,
  type Difference,
} from '#core/verify/cells';
import { coarseGrid, comparedBox } from '#core/verify/coarseCells';
import { codecLimit, isWithin } from '#core/verify/limits';
import type { FoundBox, ReadBack } from '#core/verify/readBack';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { profileName } from '../metadata/profileName.ts';
import { pictureFacts } from '../photo/probe.ts';
import { sharp } from '../sharp.ts';
import { fileCells } from './fileCells.ts';

/** What a file that was written has to be. */
export interface Expected {
  /** Turned upright, px. */
  readonly frame: Size;
  readonly orientation: number;
  readonly icc: Uint8Array | null;
  /** By which it was encoded. */
  readonly file: FileRule;
  /** What an encoder of ours made and was written: then not all of a large file need be decoded. */
  readonly parts?: readonly Uint8Array[];
  /** Cells of what was to be written, in its own numbers. */
  readonly cells: Pixels;
  readonly mark: ExpectedMark | null;
  /** How far it may be from those; else what its codec may lose. */
  readonly limit?: Difference;
}

export interface ExpectedMark {
  /** Round all copies, px. */
  readonly box: Box | null;
  /** What the mark with all that helps it may have changed, px. */
  readonly covered: readonly Box[];
  /** Cells without it; null: the expected ones are that, and it is looked for as what differs from them. */
  readonly without: Pixels | null;
}

/** Cells by which a codec's blocks reach over the edge of a mark. */
const RIM_CELLS = 3;
/** A mark that changes no cell by as much is seen by nobody. */
const SEEN_LEVELS = 4;
/** Of what a mark was to change: codecs lose some of it, and add to it. */
const LEAST_SHARE = 0.5;
const MOST_SHARE = 1.6;

/** Opens a file again, all of it, and compares it with what it has to be. */
export async function readBack(path: string, expected: Expected): Promise<ReadBack> {
  const nothing = { frame: null, orientation: null, profile: null, mark: null, elsewhere: null };
  const read = await reading(path, expected).catch(() => null);
  if (!read) {
    return {
      ...nothing,
      decodes: false,
      problem: 'The file cannot be opened again: it is damaged.',
    };
  }
  const { orientation, frame, profile, cells } = read;
  const known = { decodes: true, frame, orientation, profile };
  const isShape = frame.width === expected.frame.width && frame.height === expected.frame.height;
  if (!isShape || !cells) {
    const { width, height } = expected.frame;
    const problem = `It has ${frame.width} × ${frame.height} px, not ${width} × ${height}.`;
    return { ...known, mark: null, elsewhere: null, problem };
  }
  const differences = differencesOf(expected.cells, cells);
  const grid = coarseGrid(expected.frame);
  const boxes = (expected.mark?.covered ?? []).map((box) => grown(comparedBox(box, grid)));
  const elsewhere = differenceOutside(differences, boxes);
  const limit = expected.limit ?? codecLimit(expected.file, grid.px);
  const mark = expected.mark && markIn(expected.mark, expected.cells, cells, boxes);
  const problem =
    (orientation === expected.orientation ? null : `It is turned (orientation ${orientation}).`) ??
    (profile === profileName(asBuffer(expected.icc))
      ? null
      : `Its profile is ${profile ?? 'none'}.`) ??
    (isWithin(elsewhere, limit) ? null : 'Beside the mark it differs from the photo.') ??
    (mark?.isMissing ? 'The mark is not as it was drawn.' : null);
  return { ...known, mark: mark && mark.found, elsewhere, problem };
}

interface MarkSeen {
  readonly found: FoundBox;
  /** It was to be seen, and is not. */
  readonly isMissing: boolean;
}

function markIn(
  { box, without }: ExpectedMark,
  wanted: Pixels,
  cells: Pixels,
  boxes: readonly Box[],
): MarkSeen {
  const as = (isFound: boolean): FoundBox => ({ found: isFound, box: isFound ? box : null });
  if (!without) {
    const { worst } = differenceInside(differencesOf(wanted, cells), boxes);
    return { found: as(worst >= SEEN_LEVELS), isMissing: false };
  }
  const { share, most } = changeFound(without, wanted, cells);
  const isSeen = most >= SEEN_LEVELS;
  const isThere = share >= LEAST_SHARE && share <= MOST_SHARE;
  return { found: as(isSeen && isThere), isMissing: isSeen && !isThere };
}

/** Whole cells, with a rim. */
function grown({ x, y, width, height }: Box): Box {
  const left = Math.floor(x) - RIM_CELLS;
  const top = Math.floor(y) - RIM_CELLS;
  return {
    ...{ x: left, y: top },
    width: Math.ceil(x + width) + RIM_CELLS - left,
    height: Math.ceil(y + height) + RIM_CELLS - top,
  };
}

const asBuffer = (bytes: Uint8Array | null): Buffer | null => bytes && Buffer.from(bytes);

async function reading(path: string, { frame: wanted, parts }: Expected) {
  const metadata = await sharp(path, { limitInputPixels: MAX_PHOTO_PIXELS }).metadata();
  const picture = pictureFacts(metadata);
  const { size: frame, orientation, icc } = picture;
  const isShape = frame.width === wanted.width && frame.height === wanted.height;
  const cells = isShape ? await fileCells(path, picture, parts) : null;
  return { frame, orientation, profile: profileName(icc), cells };
}
