import type { Box, Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { cellFrame, detailOf, differencesOf, scaledBox } from '#core/verify/cells';
import { findMarks } from '#core/verify/findMarks';
import { isWithin, unknownLimit } from '#core/verify/limits';
import type { ReadBack } from '#core/verify/readBack';
import { profileName } from '../metadata/profileName.ts';
import { decodePhoto } from '../photo/decode.ts';
import { probePhoto } from '../photo/probe.ts';

/** Of frames that were rounded to whole pixels. */
const SHAPE_TOLERANCE_PX = 1.5;

/** What was found of an output of which nothing is known. */
export interface VerifiedOutput extends ReadBack {
  /** Px of the upright frame, one for each mark, round its copies; the first is `mark`. */
  readonly marks: readonly Box[];
}

/**
 * Opens an output of which nothing is known but its photo, and finds what differs.
 *
 * @param most marks that were laid; 0: it is the photo in another size or type
 * @returns a failure where the photo itself cannot be read
 */
export async function verifyOutput(
  source: string,
  output: string,
  most = 1,
): Promise<Result<VerifiedOutput>> {
  const photo = await probePhoto(source);
  if (!photo.ok) return photo;
  const damaged = (problem: string): Result<VerifiedOutput> =>
    success({
      ...{ decodes: false, frame: null, orientation: null, profile: null, mark: null, marks: [] },
      ...{ elsewhere: null, problem },
    });
  const probed = await probePhoto(output);
  if (!probed.ok) return damaged(probed.reason);
  const { size: frame, orientation, icc } = probed.value;
  const cells = cellFrame(frame);
  const seen = await decodePhoto(output, probed.value, { frame: cells, flatten: true });
  if (!seen.ok) return damaged(seen.reason);
  const known = { decodes: true, frame, orientation, profile: profileName(icc) };
  if (!isSameShape(photo.value.size, frame)) {
    const { width, height } = photo.value.size;
    const problem =
      `Its shape is not that of its photo: ${frame.width} × ${frame.height} px ` +
      `of ${width} × ${height}.`;
    return success({ ...known, mark: null, marks: [], elsewhere: null, problem });
  }
  const original = await decodePhoto(source, photo.value, { frame: cells, flatten: true });
  if (!original.ok) return original;
  const differences = differencesOf(original.value, seen.value);
  const { boxes, elsewhere, others } = findMarks(differences, detailOf(original.value), most);
  const marks = boxes.map((box) => scaledBox(box, cells, frame));
  const [box = null] = marks;
  const isElsewhere = others > 0 || !isWithin(elsewhere, unknownLimit(frame));
  const problem = isElsewhere ? elsewhereSentence(most) : box || most === 0 ? null : NO_MARK;
  return success({ ...known, mark: { found: box !== null, box }, marks, elsewhere, problem });
}

const NO_MARK = 'It has no mark that can be seen.';

function elsewhereSentence(most: number): string {
  if (most === 0) return 'It differs from its photo, on which no mark was to be laid.';
  return `It differs from its photo elsewhere than at ${most === 1 ? 'one mark' : `${most} marks`}.`;
}

function isSameShape(photo: Size, output: Size): boolean {
  const scale = Math.max(output.width / photo.width, output.height / photo.height);
  return (
    Math.abs(photo.width * scale - output.width) <= SHAPE_TOLERANCE_PX &&
    Math.abs(photo.height * scale - output.height) <= SHAPE_TOLERANCE_PX
  );
}
