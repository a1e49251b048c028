import { basename } from 'node:path';
import { UNTOUCHED } from '#core/contract/delivery';
import { planPasses, type Pass } from '#core/delivery/planPasses';
import { failure, success, type Result } from '#core/result';
import type { MarkSource } from '../compose.ts';
import { frameProblem } from '../frameProblem.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { renderUntouched } from '../untouched/renderUntouched.ts';
import { PassCanvases } from './canvases.ts';
import { openPhoto, type OpenedPhoto } from './openedPhoto.ts';
import type { OutputJob, RenderedOutput, RenderJob } from './renderJob.ts';
import { renderOutput, type MadeOutput } from './renderOutput.ts';
import { renderPrepared } from './renderPrepared.ts';

/**
 * All outputs of a photo, pass by pass: decode once → size, large to small → judge, blend only what the
 * mark covers → encode → metadata → temporary file, flushed. Nothing but temporary files is written.
 *
 * @returns one for each output of the job; one that fails leaves the others
 */
export async function renderPhoto(
  job: RenderJob,
  marks: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<RenderedOutput>[]> {
  const clock = stopwatch();
  const opened = await openPhoto(job, marks, rasteriser);
  if (!opened.ok) return job.outputs.map(() => opened);
  const photo = opened.value;
  const { size, bitsPerChannel: bits, hasAlpha } = photo.probed;
  const wanted = job.outputs.map((output) => possibleOutput(output, photo));
  // A pass knows its outputs by their place among those that can be made.
  const possible = wanted.flatMap((one, index) => (one.ok ? [{ ...one.value, index }] : []));
  const passes = planPasses(
    { size, bits, hasAlpha, hasProfile: photo.profile !== null },
    possible.map(({ output }) => output.deliveryRule),
  );
  const outputs = wanted.map((one): Result<RenderedOutput> => {
    return one.ok ? failure('It was not made.') : one;
  });
  const done = (at: number, made: Result<MadeOutput>) => {
    const { index, note } = possible[at];
    const withNote = (one: MadeOutput) => [note, one.note].filter(Boolean).join(' ') || null;
    outputs[index] = made.ok
      ? success({ ...made.value, note: withNote(made.value), durationMs: clock() })
      : made;
  };
  const jobs = possible.map(({ output }) => output);
  for (const pass of passes) await renderPass(pass, jobs, photo, done);
  return outputs;
}

/** An output as it can be made of a photo, with what has to be said of that. */
interface PossibleOutput {
  readonly output: OutputJob;
  readonly note: string | null;
}

function possibleOutput(output: OutputJob, photo: OpenedPhoto): Result<PossibleOutput> {
  const { deliveryRule } = output;
  const { file } = deliveryRule;
  const problem = file.quality === UNTOUCHED ? photo.untouchedProblem : null;
  if (problem === null) return success({ output, note: null });
  const { source, otherQuality: quality } = photo.job;
  if (quality === undefined) {
    return failure(`${basename(source)} cannot go out untouched: ${problem}.`);
  }
  return success({
    output: { ...output, deliveryRule: { ...deliveryRule, file: { ...file, quality } } },
    note: `It could not go out untouched (${problem}), so it has quality ${quality}.`,
  });
}

/**
 * Small to large, since what others are made of is marked after them; but the largest before the last, in whose
 * time the disk takes it.
 *
 * @returns places in a pass of so many outputs
 */
function inTurn(count: number): number[] {
  const small = Array.from({ length: Math.max(0, count - 2) }, (_, index) => count - 1 - index);
  return [...small, ...[0, 1].slice(0, count)];
}

/** What is made of a canvas is made before anything is drawn on it, and let go as soon as it is encoded. */
async function renderPass(
  pass: Pass,
  jobs: readonly OutputJob[],
  photo: OpenedPhoto,
  done: (at: number, made: Result<MadeOutput>) => void,
): Promise<void> {
  if (pass.isUntouched) {
    const [{ delivery }] = pass.outputs;
    done(delivery, await renderUntouched(jobs[delivery], photo));
    return;
  }
  const tooLarge = frameProblem(pass.frame);
  const canvases = tooLarge
    ? failure(tooLarge)
    : await PassCanvases.decoded(photo.job.source, photo.probed, pass);
  const storing: Promise<void>[] = [];
  try {
    for (const at of inTurn(pass.outputs.length)) {
      const { delivery } = pass.outputs[at];
      if (at === 0 && canvases.ok && pass.outputs.length > 1) await canvases.value.make(1);
      const rendered = jobs[delivery].prepared ? renderPrepared : renderOutput;
      const made = canvases.ok
        ? await rendered(jobs[delivery], await canvases.value.take(at), photo)
        : canvases;
      if (!made.ok) done(delivery, made);
      else storing.push(heard(made.value.stored.then((stored) => done(delivery, stored))));
    }
  } finally {
    // Nothing may be written any more, once this is over.
    await Promise.allSettled(storing);
  }
  await Promise.all(storing);
  if (canvases.ok) canvases.value.release();
}

/** One that is awaited later: to fail before that is no mistake of the process. */
function heard<T>(promise: Promise<T>): Promise<T> {
  promise.catch(() => undefined);
  return promise;
}

/** @returns ms since it was asked last, or made */
function stopwatch(): () => number {
  let lastMs = performance.now();
  return () => {
    const nowMs = performance.now();
    const passedMs = Math.round(nowMs - lastMs);
    lastMs = nowMs;
    return passedMs;
  };
}
