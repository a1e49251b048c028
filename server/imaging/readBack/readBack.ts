import type { FileRule } from '#core/contract/delivery';
import type { Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import { differenceOutside, differencesOf, scaledBox, type Difference } from '#core/verify/cells';
import { codecLimit, isWithin } from '#core/verify/limits';
import type { FoundBox, ReadBack } from '#core/verify/readBack';
import { MAX_PHOTO_PIXELS } from '../limits.ts';
import { profileName } from '../metadata/profileName.ts';
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
  /** Whether anything can be seen of it. */
  readonly isSeen: boolean;
  /** The cells are without it: it is looked for as what differs from them. */
  readonly isApart?: boolean;
}

/** Cells by which a codec's blocks reach over the edge of a mark. */
const RIM_CELLS = 3;
/** Of cells under a mark that is there, levels. */
const MARK_DIFFERENCE = 4;

/** Opens a file again, all of it, and compares it with what it has to be. */
export async function readBack(path: string, expected: Expected): Promise<ReadBack> {
  const nothing = { frame: null, orientation: null, profile: null, mark: null, elsewhere: null };
  const read = await reading(path, expected.frame).catch(() => null);
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
  const boxes = (expected.mark?.covered ?? []).map((box) =>
    grown(scaledBox(box, expected.frame, cells)),
  );
  const elsewhere = differenceOutside(differences, boxes);
  const limit = expected.limit ?? codecLimit(expected.file);
  const mark = expected.mark && markIn(expected.mark, differences, boxes, limit);
  const problem =
    (orientation === expected.orientation ? null : `It is turned (orientation ${orientation}).`) ??
    (profile === profileName(asBuffer(expected.icc))
      ? null
      : `Its profile is ${profile ?? 'none'}.`) ??
    (isWithin(elsewhere, limit) ? null : 'Beside the mark it differs from the photo.') ??
    (mark && expected.mark?.isSeen && !mark.found ? 'The mark is not as it was drawn.' : null);
  return { ...known, mark, elsewhere, problem };
}

function markIn(
  mark: ExpectedMark,
  differences: ReturnType<typeof differencesOf>,
  boxes: readonly Box[],
  limit: Difference,
): FoundBox {
  const { box, isSeen, isApart } = mark;
  // The cells hold the mark: it is there where they are equal. Those without it differ where it is.
  const worst = worstInside(differences, boxes);
  const found = isApart ? worst >= MARK_DIFFERENCE : isSeen && worst <= limit.worst;
  return { found, box: found ? box : null };
}

function worstInside(
  { data, width, height }: ReturnType<typeof differencesOf>,
  boxes: readonly Box[],
): number {
  let worst = 0;
  for (const { x, y, width: w, height: h } of boxes) {
    for (let row = Math.max(0, y); row < Math.min(height, y + h); row++) {
      for (let column = Math.max(0, x); column < Math.min(width, x + w); column++) {
        worst = Math.max(worst, data[row * width + column]);
      }
    }
  }
  return worst;
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

async function reading(path: string, wanted: Size) {
  const metadata = await sharp(path, { limitInputPixels: MAX_PHOTO_PIXELS }).metadata();
  const { width, height } = metadata.autoOrient;
  const isShape = width === wanted.width && height === wanted.height;
  return {
    frame: { width, height },
    orientation: metadata.orientation ?? 1,
    profile: profileName(metadata.icc ?? null),
    cells: isShape ? await fileCells(path, wanted) : null,
  };
}
