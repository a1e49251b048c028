import type { PhotoWords } from '#core/lettering/words';
import type { Adjustment } from '#core/contract/adjustment';
import type { Anchor, PresetRule, ToneChoice } from '#core/contract/preset';
import { photoRule } from '#core/placement/adjustment';
import type { Box, Size } from '#core/placement/geometry';
import { placeMark, type Placement } from '#core/placement/placeMark';
import { inkLightnessOf } from '#core/readability/batchEstimate';
import { calmness } from '#core/readability/calmness';
import { allowedAnchors, choosing, firstChoice, type Choice } from '#core/readability/choice';
import { LIGHT_MAP_LONG_SIDE, lightMap, type LightMap } from '#core/readability/lightMap';
import type { Readability } from '#core/readability/measure';
import { failure, success, type Result } from '#core/result';
import { composeMark, type LaidMark, type MarkSource } from './compose.ts';
import { messageOf } from './imageErrors.ts';
import { inkFacts } from './inkFacts.ts';
import { shapeOf } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';
import { readingOf } from './readingOf.ts';
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
 * A photo as far as it is looked at.
 *
 * @param seen what has to be in it, whole px of the working size; null: nothing
 */
export type Look = (seen: Box | null) => Promise<Result<WorkingPhoto>>;

/**
 * Chooses tone, anchor and rescue by measuring the candidates (contract, section 3), each put on
 * the photo as it would come out. What is looked at is not changed.
 */
export async function judgePhoto(
  look: Look,
  wish: MarkOnPhoto,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const { rule, adjustment, frame, words } = wish.subject;
  if (shapeOf(wish.mark.artwork, words).isEmpty) return unjudged(wish.subject, wish.mark);
  const adjusted = photoRule(rule, adjustment, frame);
  const readings: Readings = new Map();
  if (allowedAnchors(adjusted).length > 1) {
    // Where it is clear at its own place, no other is chosen: the way there is most of the work.
    const own: PresetRule = { ...adjusted, fallbacks: [], rescue: 'none' };
    const judged = await chosenBy(own, readings, look, wish, rasteriser);
    if (!judged.ok || judged.value.readability?.class === 'clear') return judged;
  }
  return chosenBy(adjusted, readings, look, wish, rasteriser);
}

/** By choice, as text. */
type Readings = Map<string, Readability | null>;

/** @param adjusted what is chosen by @param readings that are known; others are added */
async function chosenBy(
  adjusted: PresetRule,
  readings: Readings,
  look: Look,
  { subject, mark, below }: MarkOnPhoto,
  rasteriser: Rasteriser,
): Promise<Result<Judged>> {
  const { frame, rule, adjustment, words } = subject;
  const { aspect } = shapeOf(mark.artwork, words);
  const seen = seenBy(adjusted, subject, aspect);
  const bare = await look(seen);
  if (!bare.ok) return bare;
  const under = await withMarks(bare.value, below, frame, seen, rasteriser);
  if (!under.ok) return under;
  const photo = under.value;
  const ink = await inkLightness(adjusted, mark, words, rasteriser);
  if (!ink.ok) return ink;
  const policy = choosing(adjusted, ink.value, calmOn(photo, subject, aspect));
  let step = policy.next();
  while (!step.done) {
    const choice = JSON.stringify(step.value);
    if (!readings.has(choice)) {
      const placed = placeMark(frame, aspect, rule, adjustment, step.value);
      if (!placed.ok) return placed;
      const reading = await readingOf(photo, placed.value, subject, mark, rasteriser);
      if (!reading.ok) return reading;
      readings.set(choice, reading.value);
    }
    step = policy.next(readings.get(choice) ?? null);
  }
  const { choice } = step.value;
  const placement = placeMark(frame, aspect, rule, adjustment, choice);
  if (!placement.ok) return placement;
  const readability = readings.get(JSON.stringify(choice)) ?? null;
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
    const photo = success(await proxy(wish.subject.frame));
    return await judgePhoto(() => Promise.resolve(photo), wish, rasteriser);
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

/** The part of a photo that is looked at, whichever anchor is chosen; null where nothing is. */
function seenBy(
  adjusted: PresetRule,
  { frame, rule, adjustment }: MarkedSubject,
  aspect: number,
): Box | null {
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

/** What needs no look at the photo, as a judgement without a reading; a mark without words lies nowhere. */
export function unjudged(
  { frame, rule, adjustment, words }: MarkedSubject,
  mark: MarkSource,
): Result<Judged> {
  const { aspect, isEmpty } = shapeOf(mark.artwork, words);
  const choice = firstChoice(photoRule(rule, adjustment, frame));
  const placed = placeMark(frame, aspect, rule, adjustment, choice);
  if (!placed.ok) return placed;
  const placement = isEmpty ? { ...placed.value, copies: [] } : placed.value;
  return success({ choice, placement, readability: null });
}
