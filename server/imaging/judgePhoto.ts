import type { PhotoWords } from '#core/lettering/words';
import { planRasters } from '#core/compose/rasterPlan';
import type { Adjustment } from '#core/contract/adjustment';
import type { Anchor, PresetRule, ToneChoice } from '#core/contract/preset';
import { photoRule } from '#core/placement/adjustment';
import type { Box, Size } from '#core/placement/geometry';
import { placeMark, type Placement } from '#core/placement/placeMark';
import { inkLightnessOf } from '#core/readability/batchEstimate';
import { calmness } from '#core/readability/calmness';
import { allowedAnchors, choosing, firstChoice, type Choice } from '#core/readability/choice';
import { LIGHT_MAP_LONG_SIDE, lightMap, type LightMap } from '#core/readability/lightMap';
import { inkParts, type InkParts } from '#core/readability/inkParts';
import {
  bestCopy,
  measureReadability,
  type Measured,
  type Readability,
} from '#core/readability/measure';
import { failure, success, type Result } from '#core/result';
import { composeMark, type LaidMark, type MarkSource } from './compose.ts';
import { messageOf } from './imageErrors.ts';
import { inkFacts } from './inkFacts.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { grownWithin, windowRound, workingCopies } from './workingCopies.ts';
import { cutOut, workingSize, type ProxyCopies, type WorkingPhoto } from './workingPhoto.ts';

/** A mark on a photo, as it is asked for. */
export interface MarkedSubject {
  /** The output frame. */
  readonly frame: Size;
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  /** Of the photo, for a mark that holds some. */
  readonly words: PhotoWords;
}

/** A mark among several on a photo, and those that lie on it already. */
export interface MarkOnPhoto {
  readonly subject: MarkedSubject;
  readonly mark: MarkSource;
  /** In the output frame, the lowest first. */
  readonly below: readonly LaidMark[];
}

/** What was chosen for a photo by looking at it, and how the mark reads there. */
export interface Judged {
  readonly choice: Choice;
  /** In the output frame. */
  readonly placement: Placement;
  /** Null where nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
}

/**
 * Chooses tone, anchor and rescue by measuring the candidates (contract, section 3), each put on
 * the photo as it would come out. The photo given is not changed.
 *
 * @param bare upright; at least all that `seenBy` names of it
 */
export async function judgePhoto(
  bare: WorkingPhoto,
  { subject, mark, below }: MarkOnPhoto,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const { frame, rule, adjustment, words } = subject;
  const { aspect } = shapeOf(mark.artwork, words);
  const under = await withMarks(bare, below, frame, seenBy(subject, mark), rasteriser);
  if (!under.ok) return under;
  const photo = under.value;
  const adjusted = photoRule(rule, adjustment, frame);
  const ink = await inkLightness(adjusted, mark, words, rasteriser);
  if (!ink.ok) return ink;
  const policy = choosing(adjusted, ink.value, calmOn(photo, subject, aspect));
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

/** How calm a photo is under the first copy of a mark, by anchor. */
function calmOn({ pixels, ...part }: WorkingPhoto, subject: MarkedSubject, aspect: number) {
  const { frame, rule, adjustment } = subject;
  let map: LightMap | null = null;
  return (anchor: Anchor): number => {
    const choice = { ...firstChoice(photoRule(rule, adjustment, frame)), anchor };
    const placed = placeMark(frame, aspect, rule, adjustment, choice);
    const box = placed.ok ? placed.value.copies[0]?.box : undefined;
    map ??= lightMap(pixels, part);
    return box ? calmness(map, frame, box) : 0;
  };
}

/** The same by the photo's proxy. */
export async function judgeProxy(
  proxy: ProxyCopies,
  wish: MarkOnPhoto,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  try {
    return await judgePhoto(await proxy(wish.subject.frame), wish, rasteriser);
  } catch (error) {
    return failure(`The photo's proxy cannot be read (${messageOf(error)}).`);
  }
}

/** What is seen of the photo with marks that lie under another; what is given is not changed. */
async function withMarks(
  photo: WorkingPhoto,
  below: readonly LaidMark[],
  frame: Size,
  seen: Box | null,
  rasteriser: Rasteriser,
): Promise<Result<WorkingPhoto>> {
  if (below.length === 0 || !seen) return success(photo);
  const { size } = photo;
  const { x: left, y: top } = seen;
  const own = { ...seen, x: left - photo.left, y: top - photo.top };
  const marked = cutOut(photo.pixels, own);
  for (const laid of below) {
    const copies = workingCopies(laid.placement, size, frame);
    const working = { ...laid, placement: { ...laid.placement, copies } };
    const place = { frame: size, left, top };
    const composed = await composeMark(marked, working, rasteriser, null, place);
    if (!composed.ok) return composed;
  }
  return success({ pixels: marked, size, left, top });
}

/** L* of the ink by tone; its own colours are only looked at where a rescue might need them. */
async function inkLightness(
  rule: PresetRule,
  mark: MarkSource,
  words: PhotoWords,
  rasteriser: Rasteriser,
): Promise<Result<(tone: ToneChoice) => number>> {
  if (rule.rescue === 'none') return success(() => 0);
  const facts = await inkFacts(mark, words, rasteriser);
  if (!facts.ok) return facts;
  const { colour } = facts.value;
  return success((tone) => inkLightnessOf(tone, colour));
}

/** How one placement reads: only the pixels that the measure looks at are put together. */
async function readingOf(
  photo: WorkingPhoto,
  placement: Placement,
  { frame, words }: MarkedSubject,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Readability | null>> {
  const { size } = photo;
  const copies = workingCopies(placement, size, frame);
  const window = windowRound(copies, size);
  if (!window) return success(null);
  const { x: left, y: top } = window;
  const part = cutOut(photo.pixels, { ...window, x: left - photo.left, y: top - photo.top });
  const place = { frame: size, left, top };
  const working = { ...placement, copies };
  const laid = { placement: working, mark, words };
  const composed = await composeMark(part, laid, rasteriser, null, place);
  if (!composed.ok) return composed;
  const { bleed } = shapeOf(mark.artwork, words);
  const measures: (MeasuredCopy | null)[] = [];
  for (const copy of copies) {
    const [placing] = planRasters(size, [copy], bleed);
    if (!placing) continue;
    const core = await rasteriser.core(mark.key, mark.artwork, placing.spec, words);
    if (!core.ok) return core;
    const box = { ...copy.box, x: copy.box.x - left, y: copy.box.y - top };
    const measure = (parts: InkParts | null): Measured | null =>
      measureReadability(part, core.value, placing.left - left, placing.top - top, box, parts);
    const longer = Math.max(copy.size.width, copy.size.height);
    const parts = (): InkParts => inkParts(core.value, longer);
    // Of many copies only the one that counts is looked at part by part.
    const measured = measure(copies.length === 1 ? parts() : null);
    const byParts = () => (copies.length === 1 ? measured : measure(parts()));
    measures.push(measured && { ...measured, byParts });
  }
  const best = bestCopy(measures)?.byParts() ?? null;
  return success(best && readabilityOf(best, left, top, size));
}

/** A copy measured as a whole, which can be measured part by part. */
interface MeasuredCopy extends Measured {
  readonly byParts: () => Measured | null;
}

/** @param left, top of what was measured, in a photo of that size */
function readabilityOf(measured: Measured, left: number, top: number, size: Size): Readability {
  const { weakestPx: box, ...rest } = measured;
  const weakestBox = box && {
    x: (box.x + left) / size.width,
    y: (box.y + top) / size.height,
    width: box.width / size.width,
    height: box.height / size.height,
  };
  return { ...rest, weakestBox };
}

/** The part of a photo that is looked at, whichever anchor is chosen; null where nothing is. */
export function seenBy(subject: MarkedSubject, mark: MarkSource): Box | null {
  const { frame, rule, adjustment, words } = subject;
  const { aspect } = shapeOf(mark.artwork, words);
  const adjusted = photoRule(rule, adjustment, frame);
  const size = workingSize(frame);
  const copies = allowedAnchors(adjusted).flatMap((anchor) => {
    const choice = { ...firstChoice(adjusted), anchor };
    const placed = placeMark(frame, aspect, rule, adjustment, choice);
    return placed.ok ? workingCopies(placed.value, size, frame) : [];
  });
  const window = copies.length > 0 ? windowRound(copies, size) : null;
  // Calm places are looked for in whole cells of a light map.
  return window && adjusted.fallback_order === 'calmest'
    ? grownWithin(window, Math.ceil(Math.max(size.width, size.height) / LIGHT_MAP_LONG_SIDE), size)
    : window;
}

/** What needs no look at the photo, as a judgement without a reading. */
export function unjudged(
  { frame, rule, adjustment, words }: MarkedSubject,
  mark: MarkSource,
): Result<Judged> {
  const { aspect } = shapeOf(mark.artwork, words);
  const choice = firstChoice(photoRule(rule, adjustment, frame));
  const placement = placeMark(frame, aspect, rule, adjustment, choice);
  if (!placement.ok) return placement;
  return success({ choice, placement: placement.value, readability: null });
}
