import { planRasters } from '#core/compose/rasterPlan';
import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule, ToneChoice } from '#core/contract/preset';
import type { Pixels } from '#core/pixels';
import { adjustedRule } from '#core/placement/adjustment';
import { scaled, type Box, type Size } from '#core/placement/geometry';
import { placeMark, type Copy, type Placement } from '#core/placement/placeMark';
import { inkLightnessOf } from '#core/readability/batchEstimate';
import { choosing, firstChoice, type Choice } from '#core/readability/choice';
import {
  bestReadability,
  measureReadability,
  reachOf,
  WORKING_LONG_SIDE_PX,
  type Readability,
} from '#core/readability/measure';
import { success, type Result } from '#core/result';
import { composeMark, type MarkSource } from './compose.ts';
import { inkFacts } from './inkFacts.ts';
import { decodePhoto } from './photo/decode.ts';
import type { ProbedPhoto } from './photo/probe.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { sharp } from './sharp.ts';

/** A mark on a photo, as it is asked for. */
export interface MarkedSubject {
  /** The output frame. */
  readonly frame: Size;
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  /** The photo's, for a mark that writes it. */
  readonly year: number;
}

/** What was chosen for a photo by looking at it, and how the mark reads there. */
export interface Judged {
  readonly choice: Choice;
  /** In the output frame. */
  readonly placement: Placement;
  /** Null where nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
}

/** The size at which readability is measured: that of the output, where it is smaller. */
export function workingSize(frame: Size): Size & { readonly factor: number } {
  const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(frame.width, frame.height));
  return {
    factor,
    width: Math.max(1, Math.round(frame.width * factor)),
    height: Math.max(1, Math.round(frame.height * factor)),
  };
}

/** A photo at the working size, from the photo itself. */
export function workingPhoto(
  path: string,
  probed: ProbedPhoto,
  frame: Size,
): Promise<Result<Pixels>> {
  const { width, height } = workingSize(frame);
  return decodePhoto(path, probed, { frame: { width, height }, flatten: probed.hasAlpha });
}

/** The same from the proxy that was made of it, which has the working size of all large outputs. */
export async function workingProxy(path: string, frame: Size): Promise<Pixels> {
  const { width, height } = workingSize(frame);
  const proxy = sharp(path);
  const known = await proxy.metadata();
  const isThatSize = known.width === width && known.height === height;
  const sized = isThatSize ? proxy : proxy.resize(width, height, { fit: 'fill' });
  const { data, info } = await sized.raw().toBuffer({ resolveWithObject: true });
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: pixels, width: info.width, height: info.height, channels: 3 };
}

/**
 * Chooses tone, anchor and rescue by measuring the candidates (contract, section 3), each put on
 * the photo as it would come out. The photo given is not changed.
 *
 * @param photo upright, at the working size
 */
export async function judgePhoto(
  photo: Pixels,
  subject: MarkedSubject,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const { frame, rule, adjustment, year } = subject;
  const { aspect } = shapeOf(mark.artwork, year);
  const adjusted = adjustedRule(rule, adjustment);
  const ink = await inkLightness(adjusted, mark, year, rasteriser);
  if (!ink.ok) return ink;
  const policy = choosing(adjusted, ink.value);
  const readings = new Map<Choice, Readability | null>();
  let step = policy.next();
  while (!step.done) {
    const placed = placeMark(frame, aspect, rule, adjustment, step.value);
    if (!placed.ok) return placed;
    const reading = await readingOf(photo, placed.value, subject, mark, rasteriser);
    if (!reading.ok) return reading;
    readings.set(step.value, reading.value);
    step = policy.next(reading.value);
  }
  const { choice } = step.value;
  const placement = placeMark(frame, aspect, rule, adjustment, choice);
  if (!placement.ok) return placement;
  const readability = readings.get(choice) ?? null;
  return success({ choice, placement: placement.value, readability });
}

/** L* of the ink by tone; its own colours are only looked at where a rescue might need them. */
async function inkLightness(
  rule: PresetRule,
  mark: MarkSource,
  year: number,
  rasteriser: Rasteriser,
): Promise<Result<(tone: ToneChoice) => number>> {
  if (rule.rescue === 'none') return success(() => 0);
  const facts = await inkFacts(mark, year, rasteriser);
  if (!facts.ok) return facts;
  const { colour } = facts.value;
  return success((tone) => inkLightnessOf(tone, colour));
}

/** How one placement reads: only the pixels that the measure looks at are put together. */
async function readingOf(
  photo: Pixels,
  placement: Placement,
  { frame, year }: MarkedSubject,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Readability | null>> {
  const factor = photo.width / frame.width;
  const copies = placement.copies.map((copy) => scaledCopy(copy, factor));
  const window = windowRound(copies, photo);
  if (!window) return success(null);
  const part = cutOut(photo, window);
  const { x: left, y: top } = window;
  const place = { frame: photo, left, top };
  const working = { ...placement, copies };
  const composed = await composeMark(part, working, mark, year, rasteriser, place);
  if (!composed.ok) return composed;
  const { bleed } = shapeOf(mark.artwork, year);
  const measures: (Readability | null)[] = [];
  for (const copy of copies) {
    const [placing] = planRasters(photo, [copy], bleed);
    if (!placing) continue;
    const core = await rasteriser.core(mark.key, mark.artwork, placing.spec, year);
    if (!core.ok) return core;
    const box = { ...copy.box, x: copy.box.x - left, y: copy.box.y - top };
    measures.push(
      measureReadability(part, core.value, placing.left - left, placing.top - top, box),
    );
  }
  return success(bestReadability(measures));
}

function scaledCopy({ box, size, rotation }: Copy, factor: number): Copy {
  const { width, height } = scaled(box, factor);
  return {
    box: { x: box.x * factor, y: box.y * factor, width, height },
    size: scaled(size, factor),
    rotation,
  };
}

/** The part of a photo that holds all copies with the ground round them; null beside the photo. */
function windowRound(copies: readonly Copy[], { width, height }: Size): Box | null {
  const edges = copies.map(({ box }) => ({ box, reach: reachOf(box) + 1 }));
  const low = (along: 'x' | 'y'): number =>
    Math.max(0, Math.floor(Math.min(...edges.map(({ box, reach }) => box[along] - reach))));
  const x = low('x');
  const y = low('y');
  const right = Math.max(...edges.map(({ box, reach }) => box.x + box.width + reach));
  const bottom = Math.max(...edges.map(({ box, reach }) => box.y + box.height + reach));
  const window = {
    ...{ x, y },
    width: Math.min(width, Math.ceil(right)) - x,
    height: Math.min(height, Math.ceil(bottom)) - y,
  };
  return window.width > 0 && window.height > 0 ? window : null;
}

/** A copy of part of a photo; the box is whole pixels within it. */
export function cutOut({ data, width, channels }: Pixels, box: Box): Pixels {
  const row = box.width * channels;
  const part = new Uint8ClampedArray(row * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = ((box.y + y) * width + box.x) * channels;
    part.set(data.subarray(from, from + row), y * row);
  }
  return { data: part, width: box.width, height: box.height, channels };
}

/** What needs no look at the photo, as a judgement without a reading. */
export function unjudged(
  { frame, rule, adjustment, year }: MarkedSubject,
  mark: MarkSource,
): Result<Judged> {
  const { aspect } = shapeOf(mark.artwork, year);
  const choice = firstChoice(adjustedRule(rule, adjustment));
  const placement = placeMark(frame, aspect, rule, adjustment, choice);
  if (!placement.ok) return placement;
  return success({ choice, placement: placement.value, readability: null });
}
