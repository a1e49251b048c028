import type { Canvas } from '#core/pixels';
import { adjustedRule } from '#core/placement/adjustment';
import { needsChoosing } from '#core/readability/choice';
import { boxAroundAll } from '#core/placement/geometry';
import { canvasCells } from '#core/verify/coarseCells';
import { success, type Result } from '#core/result';
import { composeMark, coveredBoxes, type MarkSource } from '../compose.ts';
import {
  judgePhoto,
  judgeProxy,
  unjudged,
  type Judged,
  type MarkedSubject,
  type Proxy,
} from '../judgePhoto.ts';
import type { ExpectedMark } from '../readBack/readBack.ts';
import type { Profile } from '../raster/inProfile.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import type { WorkingPhoto } from '../workingPhoto.ts';

/** What a mark is judged by. */
export interface Judging {
  /** The photo at working size, where that was kept. */
  readonly proxy?: Proxy | undefined;
  /** Measure readability also where nothing is chosen by it. */
  readonly measures?: boolean | undefined;
  /** The output is opened again afterwards. */
  readonly readsBack?: boolean | undefined;
  /** The photo at working size, where there is nothing kept. */
  readonly working: () => Promise<Result<WorkingPhoto>>;
}

/** How a mark was drawn on a canvas. */
export interface MarkedCanvas extends Pick<Judged, 'placement' | 'readability'> {
  readonly drawn: ExpectedMark;
}

/** Chooses how a mark lies on a canvas and draws it there, in place. */
export async function markCanvas(
  canvas: Canvas,
  subject: MarkedSubject,
  mark: MarkSource,
  judging: Judging,
  profile: Profile | null,
  rasteriser: Rasteriser,
): Promise<Result<MarkedCanvas>> {
  const judged = await judgedBy(subject, mark, judging, rasteriser);
  if (!judged.ok) return judged;
  const { placement, readability } = judged.value;
  const { year } = subject;
  const covered = coveredBoxes(canvas, placement, mark, year);
  const without = judging.readsBack ? canvasCells(canvas) : null;
  const composed = await composeMark(canvas, placement, mark, year, rasteriser, profile);
  if (!composed.ok) return composed;
  const box = boxAroundAll(placement.copies.map((copy) => copy.box));
  const drawn = { box, covered, without };
  return success({ placement, readability, drawn });
}

/** A photo is looked at beforehand only where something is chosen by it, or asked for. */
export async function judgedBy(
  subject: MarkedSubject,
  mark: MarkSource,
  { proxy, measures, working }: Judging,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const isNeeded = measures || needsChoosing(adjustedRule(subject.rule, subject.adjustment));
  if (!isNeeded) return unjudged(subject, mark);
  const judged = proxy ? await judgeProxy(proxy, subject, mark, rasteriser) : null;
  if (judged?.ok) return judged;
  const seen = await working();
  return seen.ok ? judgePhoto(seen.value, subject, mark, rasteriser) : seen;
}
