import { stat } from 'node:fs/promises';
import type { DeliveryRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import type { Adjustment } from '#core/contract/adjustment';
import { adjustedRule } from '#core/placement/adjustment';
import type { Placement } from '#core/placement/placeMark';
import { needsChoosing } from '#core/readability/choice';
import type { Readability } from '#core/readability/measure';
import { failure, success, type Result } from '#core/result';
import { storageSentence } from '../storage/storageErrors.ts';
import { writeTemporary } from '../storage/atomicWrite.ts';
import { composeMark, type MarkSource } from './compose.ts';
import { encodePhoto, TYPES_WITH_ALPHA } from './encode.ts';
import { frameProblem } from './frameProblem.ts';
import { outputBlocks } from './metadata/blocks.ts';
import { leftOutOfJpeg } from './metadata/jpegSegments.ts';
import { decodePhoto } from './photo/decode.ts';
import { photoYear, probePhoto, type ProbedPhoto } from './photo/probe.ts';
import {
  judgePhoto,
  judgeProxy,
  type Proxy,
  unjudged,
  type Judged,
  type MarkedSubject,
} from './judgePhoto.ts';
import { followsYear } from './raster/artwork.ts';
import { workingCopy } from './workingPhoto.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** One output: a photo with its mark, as a delivery wants it, in a temporary file of its folder. */
export interface RenderJob {
  readonly source: string;
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  readonly deliveryRule: DeliveryRule;
  /** The photo at working size, where that was kept: what the page judges by is then what is judged by here. */
  readonly proxy?: Proxy | undefined;
  /** Measure readability also where nothing is chosen by it. */
  readonly measures?: boolean;
  /** Where the finished bytes go; not the final name. */
  readonly temporaryPath: string;
}

export interface RenderedPhoto {
  readonly frame: Size;
  readonly placement: Placement;
  /** Null where it was not measured, or nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
  /** The year written for want of a capture date, that of the file; else null. */
  readonly yearFromFile: number | null;
  /** What of the photo's notes the file type has no room for, as a sentence, or null. */
  readonly leftOut: string | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  readonly durationMs: number;
}

/**
 * decode and resize → blend only what the mark covers → encode → metadata → temporary file, flushed.
 * Nothing but the temporary file is written.
 */
export async function renderPhoto(
  job: RenderJob,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<RenderedPhoto>> {
  const startMs = performance.now();
  const probed = await probePhoto(job.source);
  if (!probed.ok) return probed;
  const frame = resizeFrame(probed.value.size, job.deliveryRule.resize);
  const tooLarge = frameProblem(frame);
  if (tooLarge) return failure(tooLarge);
  const dated = followsYear(mark.artwork) ? await photoYear(job.source, probed.value) : null;
  const year = dated?.year ?? new Date().getFullYear();
  const subject = { frame, rule: job.rule, adjustment: job.adjustment, year };
  const encoded = await encodedPhoto(job, probed.value, subject, mark, rasteriser);
  if (!encoded.ok) return encoded;
  const { parts, placement, readability, leftOut } = encoded.value;
  try {
    const keepsDate = job.deliveryRule.dates === 'photo';
    await writeTemporary(job.temporaryPath, parts, keepsDate ? await modified(job.source) : null);
  } catch (error) {
    return failure(storageSentence(job.temporaryPath, error));
  }
  return success({
    frame,
    placement,
    readability,
    yearFromFile: dated?.from === 'file' ? dated.year : null,
    leftOut,
    bytesBefore: probed.value.bytes,
    bytesAfter: parts.reduce((sum, part) => sum + part.length, 0),
    durationMs: Math.round(performance.now() - startMs),
  });
}

interface EncodedPhoto extends Pick<Judged, 'placement' | 'readability'> {
  /** The bytes of the file, in order. */
  readonly parts: Buffer[];
  readonly leftOut: string | null;
}

/** Its own function, so that the decoded pixels are free to go before the file is written. */
async function encodedPhoto(
  job: RenderJob,
  probed: ProbedPhoto,
  subject: MarkedSubject,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<EncodedPhoto>> {
  const { frame, year } = subject;
  const resizes = frame.width !== probed.size.width || frame.height !== probed.size.height;
  const decoded = await decodePhoto(job.source, probed, {
    frame: resizes ? frame : null,
    flatten: probed.hasAlpha && !TYPES_WITH_ALPHA.has(job.deliveryRule.file.type),
  });
  if (!decoded.ok) return decoded;
  const judged = await judgedFor(job, subject, decoded.value, mark, rasteriser);
  if (!judged.ok) return judged;
  const { placement, readability } = judged.value;
  const composed = await composeMark(decoded.value, placement, mark, year, rasteriser);
  if (!composed.ok) return composed;
  const blocks = await outputBlocks(probed.metadata, job.deliveryRule.metadata, frame);
  try {
    const parts = await encodePhoto(composed.value, job.deliveryRule.file, blocks);
    const leftOut = job.deliveryRule.file.type === 'jpeg' ? leftOutOfJpeg(blocks) : null;
    return success({ parts, placement, readability, leftOut });
  } catch (error) {
    const { width, height } = frame;
    const type = job.deliveryRule.file.type.toUpperCase();
    return failure(
      `A ${type} of ${width} × ${height} px could not be made (${(error as Error).message}).`,
    );
  }
}

/** A photo is looked at beforehand only where something is chosen by it, or asked for. */
async function judgedFor(
  job: RenderJob,
  subject: MarkedSubject,
  photo: Pixels,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const isNeeded = job.measures || needsChoosing(adjustedRule(job.rule, job.adjustment));
  if (!isNeeded) return unjudged(subject, mark);
  const judged = job.proxy ? await judgeProxy(job.proxy, subject, mark, rasteriser) : null;
  if (judged?.ok) return judged;
  return judgePhoto(await workingCopy(photo), subject, mark, rasteriser);
}

async function modified(path: string): Promise<Date> {
  return (await stat(path)).mtime;
}
