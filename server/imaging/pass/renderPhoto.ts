import { stat } from 'node:fs/promises';
import type { Adjustment } from '#core/contract/adjustment';
import type { DeliveryRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import { planPasses, type Pass, type PlannedOutput } from '#core/delivery/planPasses';
import type { Canvas } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import type { Readability } from '#core/readability/measure';
import { failure, success, type Result } from '#core/result';
import { writeTemporary } from '../../storage/atomicWrite.ts';
import { storageSentence } from '../../storage/storageErrors.ts';
import type { MarkSource } from '../compose.ts';
import { frameProblem } from '../frameProblem.ts';
import type { Proxy } from '../judgePhoto.ts';
import { outputBlocks } from '../metadata/blocks.ts';
import { rightsOfPhoto } from '../metadata/rights.ts';
import { photoYear, probePhoto, type ProbedPhoto } from '../photo/probe.ts';
import { followsYear } from '../raster/artwork.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import type { WrittenFile } from '../writers/writer.ts';
import { WRITERS } from '../writers/writers.ts';
import { PassCanvases } from './canvases.ts';
import { markCanvas } from './markCanvas.ts';
import { sharpened } from './sharpened.ts';

/** One photo and the outputs that are wanted of it. Plain data: whoever renders may be elsewhere. */
export interface RenderJob {
  readonly source: string;
  /** The photo at working size, where that was kept: what the page judges by is then what is judged by here. */
  readonly proxy?: Proxy | undefined;
  /** Measure readability also where nothing is chosen by it. */
  readonly measures?: boolean;
  readonly outputs: readonly OutputJob[];
}

/** A photo with its mark, as a delivery wants it, in a temporary file of its folder. */
export interface OutputJob {
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  /** Place of its mark among those that come with the job. */
  readonly mark: number;
  readonly deliveryRule: DeliveryRule;
  /** Where the finished bytes go; not the final name. */
  readonly temporaryPath: string;
}

export interface RenderedOutput {
  readonly frame: Size;
  /** Null: it has no mark. */
  readonly placement: Placement | null;
  /** Null where it was not measured, or nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
  /** The year written for want of a capture date, that of the file; else null. */
  readonly yearFromFile: number | null;
  /** What should be known of the file, as a sentence, such as what it had no room for; or null. */
  readonly note: string | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  /** Of a photo's first output with what all need: reading and decoding it. */
  readonly durationMs: number;
}

interface OpenedPhoto {
  readonly job: RenderJob;
  readonly marks: readonly MarkSource[];
  readonly probed: ProbedPhoto;
  readonly rasteriser: Rasteriser;
}

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
  const probed = await probePhoto(job.source);
  if (!probed.ok) return job.outputs.map(() => probed);
  const photo = { job, marks, probed: probed.value, rasteriser };
  const { size, bitsPerChannel: bits, hasAlpha } = probed.value;
  const passes = planPasses(
    { size, bits, hasAlpha },
    job.outputs.map(({ deliveryRule }) => deliveryRule),
  );
  const outputs = new Array<Result<RenderedOutput>>(job.outputs.length);
  for (const pass of passes) await renderPass(pass, photo, clock, outputs);
  return outputs;
}

/** Small to large: what others are made of is marked last, and let go as soon as it is written. */
async function renderPass(
  pass: Pass,
  photo: OpenedPhoto,
  clock: () => number,
  outputs: Result<RenderedOutput>[],
): Promise<void> {
  const tooLarge = frameProblem(pass.frame);
  const canvases = tooLarge
    ? failure(tooLarge)
    : await PassCanvases.decoded(photo.job.source, photo.probed, pass);
  for (let at = pass.outputs.length - 1; at >= 0; at--) {
    const output = pass.outputs[at];
    outputs[output.delivery] = canvases.ok
      ? await renderOutput(output, await canvases.value.take(at), photo, clock)
      : canvases;
  }
}

async function renderOutput(
  { delivery, frame }: PlannedOutput,
  unsharpened: Canvas,
  { job, marks, probed, rasteriser }: OpenedPhoto,
  clock: () => number,
): Promise<Result<RenderedOutput>> {
  const output = job.outputs[delivery];
  const mark = marks[output.mark];
  const isMarked = output.deliveryRule.mark;
  const writesYear = isMarked && followsYear(mark.artwork);
  const dated = writesYear ? await photoYear(job.source, probed) : null;
  const year = dated?.year ?? new Date().getFullYear();
  const { rule, adjustment, deliveryRule, temporaryPath } = output;
  const subject = { frame, rule, adjustment, year };
  const isSmaller = frame.width < probed.size.width;
  const canvas = await sharpened(unsharpened, isSmaller ? deliveryRule.sharpen : 'none');
  const marked = isMarked
    ? await markCanvas(canvas, subject, mark, job, rasteriser)
    : success({ placement: null, readability: null });
  if (!marked.ok) return marked;
  const written = await encoded(canvas, deliveryRule, probed, job.source);
  if (!written.ok) return written;
  const { parts, note } = written.value;
  try {
    const keepsDate = deliveryRule.dates === 'photo';
    await writeTemporary(temporaryPath, parts, keepsDate ? await modified(job.source) : null);
  } catch (error) {
    return failure(storageSentence(temporaryPath, error));
  }
  return success({
    ...{ frame, note, ...marked.value },
    yearFromFile: dated?.from === 'file' ? dated.year : null,
    bytesBefore: probed.bytes,
    bytesAfter: parts.reduce((sum, part) => sum + part.length, 0),
    durationMs: clock(),
  });
}

async function encoded(
  canvas: Canvas,
  rule: DeliveryRule,
  probed: ProbedPhoto,
  source: string,
): Promise<Result<WrittenFile>> {
  const { file, metadata, dpi } = rule;
  const { width, height } = canvas;
  try {
    const own = metadata.keep === 'copyright' ? await rightsOfPhoto(source, probed.metadata) : null;
    const blocks = await outputBlocks(probed.metadata, metadata, canvas, dpi, own);
    return success(await WRITERS[file.type](canvas, file, blocks));
  } catch (error) {
    const type = file.type.toUpperCase();
    const { message } = error as Error;
    return failure(`A ${type} of ${width} × ${height} px could not be made (${message}).`);
  }
}

async function modified(path: string): Promise<Date> {
  return (await stat(path)).mtime;
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
