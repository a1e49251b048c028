import { basename } from 'node:path';
import { cleanCrop } from '#core/placement/cleanCrop';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import type { MarkSource } from './compose.ts';
import { judgedInOrder } from './pass/markCanvas.ts';
import type { DrawnMark, WantedMark } from './pass/renderJob.ts';
import { fileWords, type NamedInRun } from './photo/fileWords.ts';
import { probePhoto } from './photo/probe.ts';
import { tokensOn } from './raster/artwork.ts';
import { wordsSaid } from './raster/wordsSaid.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { workingPhoto } from './workingPhoto.ts';

/** How a mark would sit and read on a photo at its own size. */
export interface CheckedPhoto {
  readonly frame: Size;
  /** The lowest first. */
  readonly marks: readonly DrawnMark[];
  /** Share of the frame that can be cropped free of all marks. */
  readonly cleanCrop: number;
  readonly durationMs: number;
}

/** Placement, readability and clean crop of a photo, writing nothing. */
export async function checkPhoto(
  path: string,
  named: NamedInRun,
  wanted: readonly WantedMark[],
  sources: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<CheckedPhoto>> {
  const startMs = performance.now();
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const frame = probed.value.size;
  const tokens = sources.flatMap(({ artwork }) => tokensOn(artwork));
  const { words } = await fileWords(path, probed.value, named, tokens);
  const laid = wanted.map(({ mark }) => sources[mark]);
  const said = wordsSaid(laid, words, basename(path));
  if (!said.ok) return said;
  const photo = await workingPhoto(path, probed.value, frame);
  if (!photo.ok) return photo;
  const working = () => Promise.resolve(photo);
  const wishes = wanted.map(({ rule, adjustment, mark }) => {
    return { subject: { frame, rule, adjustment, words }, mark: sources[mark] };
  });
  const judging = { measures: true, working };
  const judged = await judgedInOrder(wishes, judging, rasteriser);
  if (!judged.ok) return judged;
  const { marks } = judged.value;
  const boxes = marks.flatMap(({ placement }) => placement.copies.map((copy) => copy.box));
  return success({
    ...{ frame, marks },
    cleanCrop: cleanCrop(frame, boxes).share,
    durationMs: Math.round(performance.now() - startMs),
  });
}
