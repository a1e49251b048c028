import type { Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import { frameProblem } from './frameProblem.ts';
import { composeMark, type LaidMark } from './compose.ts';
import { cutOut } from './workingPhoto.ts';
import { decodePhoto } from './photo/decode.ts';
import { probePhoto } from './photo/probe.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { sharpOf } from './sharp.ts';

/** Part of an output to look at, as the engine makes it. */
export interface RegionJob {
  readonly source: string;
  /** The output frame. */
  readonly frame: Size;
  /** Whole pixels of the frame. */
  readonly region: Box;
}

/** A photo that is looked at is panned over: its pixels are kept until it is left alone for a while. */
const KEEP_MS = 30_000;
/** Larger photos are decoded anew each time, since their pixels would crowd the memory. */
const KEPT_PIXELS = 64_000_000;
/** What goes through a local connection need not be small. */
const PNG_LEVEL = 1;

let kept: { key: string; pixels: Promise<Result<Pixels>> } | null = null;
let forgetting: NodeJS.Timeout | null = null;

/**
 * The region as a PNG: decoded, resized and marked by what makes the outputs, before encoding.
 *
 * @param laid the lowest first; none: before the mark is laid
 */
export async function photoRegion(
  { source, frame, region }: RegionJob,
  laid: readonly LaidMark[],
  rasteriser: Rasteriser,
): Promise<Result<Uint8Array>> {
  const tooLarge = frameProblem(frame);
  if (tooLarge) return failure(tooLarge);
  const whole = await framePixels(source, frame);
  if (!whole.ok) return whole;
  const shown = within(region, whole.value);
  const part = cutOut(whole.value, shown);
  const window = { frame, left: shown.x, top: shown.y };
  for (const one of laid) {
    const composed = await composeMark(part, one, rasteriser, null, window);
    if (!composed.ok) return composed;
  }
  return success(await sharpOf(part).png({ compressionLevel: PNG_LEVEL }).toBuffer());
}

function framePixels(source: string, frame: Size): Promise<Result<Pixels>> {
  const key = `${source}|${frame.width}|${frame.height}`;
  if (forgetting) clearTimeout(forgetting);
  forgetting = setTimeout(() => (kept = null), KEEP_MS).unref();
  if (kept?.key === key) return kept.pixels;
  const pixels = decodedFrame(source, frame);
  kept = frame.width * frame.height <= KEPT_PIXELS ? { key, pixels } : null;
  return pixels;
}

async function decodedFrame(source: string, frame: Size): Promise<Result<Pixels>> {
  const probed = await probePhoto(source);
  if (!probed.ok) return probed;
  const { size, hasAlpha } = probed.value;
  const resizes = size.width !== frame.width || size.height !== frame.height;
  return decodePhoto(source, probed.value, { frame: resizes ? frame : null, flatten: hasAlpha });
}

function within({ x, y, width, height }: Box, frame: Size): Box {
  const left = Math.min(x, frame.width - 1);
  const top = Math.min(y, frame.height - 1);
  return {
    x: left,
    y: top,
    width: Math.min(width, frame.width - left),
    height: Math.min(height, frame.height - top),
  };
}
