import type { Canvas } from '#core/pixels';
import { photoRule } from '#core/placement/adjustment';
import { boxAroundAll, type Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { canvasCells } from '#core/verify/coarseCells';
import { needsChoosing } from '#core/readability/choice';
import { composeMark, coveredBoxes, type LaidMark } from '../compose.ts';
import {
  judgePhoto,
  judgeProxy,
  unjudged,
  type Judged,
  type Look,
  type MarkOnPhoto,
} from '../judgePhoto.ts';
import type { ExpectedMark } from '../readBack/readBack.ts';
import type { Profile } from '../raster/inProfile.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import type { ProxyCopies } from '../workingPhoto.ts';
import type { DrawnMark } from './renderJob.ts';

/** What marks are judged by. */
export interface Judging {
  /** The photo at working size, where that was kept. */
  readonly proxy?: ProxyCopies | null;
  /** Measure readability also where nothing is chosen by it. */
  readonly measures?: boolean | undefined;
  /** The output is opened again afterwards. */
  readonly readsBack?: boolean | undefined;
  /** The photo at working size without marks, where there is nothing kept. */
  readonly working: Look;
}

/** How marks were drawn on a canvas. */
export interface MarkedCanvas {
  readonly marks: readonly DrawnMark[];
  readonly drawn: ExpectedMark;
}

/** Chooses how marks lie on a canvas and draws them there, in place, one over the other. */
export async function markCanvas(
  canvas: Canvas,
  wanted: readonly Omit<MarkOnPhoto, 'below'>[],
  judging: Judging,
  profile: Profile | null,
  rasteriser: Rasteriser,
): Promise<Result<MarkedCanvas>> {
  const without = judging.readsBack ? canvasCells(canvas) : null;
  // All are judged before any is drawn: what they are judged by may be these very pixels.
  const judged = await judgedInOrder(wanted, judging, rasteriser);
  if (!judged.ok) return judged;
  const { marks, laid } = judged.value;
  for (const one of laid) {
    const composed = await composeMark(canvas, one, rasteriser, profile);
    if (!composed.ok) return composed;
  }
  return success({ marks, drawn: expectedMark(canvas, laid, without) });
}

/** Marks as they were judged, the lowest first. */
interface JudgedMarks {
  readonly marks: readonly DrawnMark[];
  readonly laid: readonly LaidMark[];
}

/** Judges marks one after the other, each over those before it; nothing is drawn. */
export async function judgedInOrder(
  wanted: readonly Omit<MarkOnPhoto, 'below'>[],
  judging: Judging,
  rasteriser: Rasteriser,
): Promise<Result<JudgedMarks>> {
  const laid: LaidMark[] = [];
  const marks: DrawnMark[] = [];
  for (const one of wanted) {
    const judged = await judgedBy({ ...one, below: laid }, judging, rasteriser);
    if (!judged.ok) return judged;
    const { placement, readability } = judged.value;
    laid.push({ placement, mark: one.mark, words: one.subject.words });
    marks.push({ placement, readability });
  }
  return success({ marks, laid });
}

/** What is to be found of marks in a file. @param without what was there before they were drawn */
export function expectedMark(
  frame: Size,
  laid: readonly LaidMark[],
  without: ExpectedMark['without'],
): ExpectedMark {
  const copies = laid.flatMap(({ placement }) => placement.copies);
  const covered = laid.flatMap((one) => coveredBoxes(frame, one));
  return { box: boxAroundAll(copies.map(({ box }) => box)), covered, without };
}

/** A photo is looked at beforehand only where something is chosen by it, or asked for. */
async function judgedBy(
  wish: MarkOnPhoto,
  { proxy, measures, working }: Judging,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const { frame, rule, adjustment } = wish.subject;
  const isNeeded = measures || needsChoosing(photoRule(rule, adjustment, frame));
  if (!isNeeded) return unjudged(wish.subject, wish.mark);
  const judged = proxy ? await judgeProxy(proxy, wish, rasteriser) : null;
  if (judged?.ok) return judged;
  return judgePhoto(working, wish, rasteriser);
}
