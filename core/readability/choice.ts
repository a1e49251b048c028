import {
  OPACITY_STEP,
  type Anchor,
  type PresetRule,
  type QuietOpacity,
  type RescueKind,
  type ToneChoice,
} from '../contract/preset.ts';
import { readsBetter, type Readability } from './measure.ts';

/** What is chosen for one photo by how well the mark reads there. */
export interface Choice {
  readonly anchor: Anchor;
  readonly tone: ToneChoice;
  readonly rescue: Rescue | null;
  /** 0 to 1. */
  readonly opacity: number;
}

/** Help under a mark that reads nowhere. */
export interface Rescue {
  readonly kind: RescueKind;
  /** 0 to 1, multiplies its alpha. */
  readonly strength: number;
  /** `#rrggbb`, at the other end from the ink. */
  readonly colour: string;
}

/** A choice with how it reads; null where nothing of the mark lies on the photo. */
export interface Chosen {
  readonly choice: Choice;
  readonly reading: Reading | null;
}

/** As much of a reading as choices need: a measured one, or an estimated share. */
export type Reading = Pick<Readability, 'class' | 'share' | 'contrast' | 'weakest'>;

/** The opacity at which a rule's other choices are made: the highest it allows. */
export function mostOpacity({ opacity }: Pick<PresetRule, 'opacity'>): number {
  return typeof opacity === 'number' ? opacity : opacity.most;
}

/** Steps by rule: a batch asks for the same ones with every photo. */
const knownSteps = new WeakMap<QuietOpacity, readonly number[]>();

/** The opacities that a quiet mark may have, rising: from the least in steps, and the most itself. */
export function quietSteps(rule: QuietOpacity): readonly number[] {
  let steps = knownSteps.get(rule);
  if (!steps) knownSteps.set(rule, (steps = newSteps(rule)));
  return steps;
}

function newSteps({ least, most }: QuietOpacity): number[] {
  const count = Math.ceil((most - least) / OPACITY_STEP - STEP_TOLERANCE);
  const steps = Array.from({ length: count }, (_, step) => least + step * OPACITY_STEP);
  // Sums of twentieths are noisy in their last digits.
  return [...steps, most].map((opacity) => Number(opacity.toFixed(OPACITY_DIGITS)));
}

const STEP_TOLERANCE = 1e-9;
const OPACITY_DIGITS = 6;

/** Strengths of a rescue that are tried: twentieths, finer is not seen. */
const RESCUE_STEPS = 20;

/** L* from which ink is bright, so that its rescue is dark. */
const BRIGHT_INK = 50;

/** The tones a rule allows, in its order. */
export function allowedTones(rule: PresetRule): readonly ToneChoice[] {
  return rule.tone.rule === 'auto' ? rule.tone.among : [rule.tone.tone];
}

/** Mean L* of a photo beside which a dark mark is the plain choice. */
const BRIGHT_LIGHTNESS = 55;

/** The tone a photo would be given by its brightness alone, where nothing of it is measured. */
export function plainTone(rule: PresetRule, lightness: number): ToneChoice {
  const tones = allowedTones(rule);
  const plain = lightness > BRIGHT_LIGHTNESS ? 'dark' : 'light';
  return tones.includes(plain) ? plain : tones[0];
}

/** Anchors by rule: a batch asks for the same ones with every photo. */
const knownAnchors = new WeakMap<PresetRule, readonly Anchor[]>();

/** The anchors a rule allows, its own first, each once. */
export function allowedAnchors(rule: PresetRule): readonly Anchor[] {
  let anchors = knownAnchors.get(rule);
  if (!anchors) {
    anchors = [...new Set([rule.anchor, ...rule.fallbacks])];
    knownAnchors.set(rule, anchors);
  }
  return anchors;
}

/** The choice that needs no look at the photo: what the rule names first. */
export function firstChoice(rule: PresetRule): Choice {
  const opacity = mostOpacity(rule);
  return { anchor: rule.anchor, tone: allowedTones(rule)[0], rescue: null, opacity };
}

/** Whether the placement depends on what the photo looks like. */
export function needsChoosing(rule: PresetRule): boolean {
  return (
    rule.rescue !== 'none' ||
    typeof rule.opacity !== 'number' ||
    allowedTones(rule).length > 1 ||
    allowedAnchors(rule).length > 1
  );
}

/**
 * Chooses tone, anchor and rescue (contract, section 3). It yields each choice it wants to know the
 * reading of and is sent that reading, so that the measure and the fast estimate follow one policy:
 * of the tones one that is clear, then the one with the higher share, then the higher contrast; of the
 * anchors the first that is clear, otherwise the best; a rescue only where that is not clear, and the
 * weakest that makes it so. All that at the highest opacity the rule allows; where it is clear there, a
 * quiet rule takes the lowest at which it still is.
 *
 * @param inkLightness L* of the mark's own ink in a tone
 * @param calmAt how calm the photo is under the mark at an anchor, 0 to 1; asked where a rule goes by it
 */
export function* choosing(
  rule: PresetRule,
  inkLightness: (tone: ToneChoice) => number,
  calmAt: (anchor: Anchor) => number,
): Generator<Choice, Chosen, Reading | null> {
  let best: Chosen | null = null;
  const opacity = mostOpacity(rule);
  for (const anchor of anchorsInTurn(rule, calmAt)) {
    for (const tone of allowedTones(rule)) {
      const choice = { anchor, tone, rescue: null, opacity };
      const chosen: Chosen = { choice, reading: yield choice };
      if (!best || isBetter(chosen, best)) best = chosen;
    }
    if (best?.reading?.class === 'clear') return yield* quietest(best, rule.opacity);
  }
  const found = best ?? { choice: firstChoice(rule), reading: null };
  if (rule.rescue === 'none' || !found.reading) return found;
  return yield* rescuing(found, rule.rescue, rescueColour(inkLightness(found.choice.tone)));
}

/** The rule's own anchor, then the others: the calmest are only looked for where that is not clear. */
function anchorsInTurn(rule: PresetRule, calmAt: (anchor: Anchor) => number): Iterable<Anchor> {
  const anchors = allowedAnchors(rule);
  return rule.fallback_order === 'listed' ? anchors : calmestInTurn(anchors, calmAt);
}

function* calmestInTurn(
  [own, ...others]: readonly Anchor[],
  calmAt: (anchor: Anchor) => number,
): Generator<Anchor, void, undefined> {
  yield own;
  yield* others
    .map(withCalm(calmAt))
    .sort(byCalm)
    .map(({ anchor }) => anchor);
}

function withCalm(calmAt: (anchor: Anchor) => number) {
  return (anchor: Anchor) => ({ anchor, calm: calmAt(anchor) });
}

/** Of places that are as calm, the first named. */
function byCalm(one: { readonly calm: number }, other: { readonly calm: number }): number {
  return other.calm - one.calm;
}

/**
 * The lowest opacity at which it is clear: on calm ground the least one, else found by halving, since a stronger
 * mark reads better.
 */
function* quietest(
  found: Chosen,
  opacity: PresetRule['opacity'],
): Generator<Choice, Chosen, Reading | null> {
  if (typeof opacity === 'number') return found;
  const steps = quietSteps(opacity);
  let quiet = found;
  let faint = -1;
  let clear = steps.length - 1;
  while (clear - faint > 1) {
    const step = faint < 0 ? 0 : Math.floor((faint + clear) / 2);
    const { anchor, tone, rescue } = found.choice;
    const choice = { anchor, tone, rescue, opacity: steps[step] };
    const reading = yield choice;
    if (reading?.class === 'clear') {
      clear = step;
      quiet = { choice, reading };
    } else faint = step;
  }
  return quiet;
}

/** The weakest help that makes it clear; where none does, the strongest if it helps at all. */
function* rescuing(
  found: Chosen,
  kind: RescueKind,
  colour: string,
): Generator<Choice, Chosen, Reading | null> {
  const withStrength = (step: number): Choice => ({
    ...found.choice,
    rescue: { kind, strength: step / RESCUE_STEPS, colour },
  });
  let clearest = withStrength(RESCUE_STEPS);
  let reading = yield clearest;
  if (reading?.class !== 'clear') {
    const full = { choice: clearest, reading };
    return isBetter(full, found) ? full : found;
  }
  let weak = 0;
  let strong = RESCUE_STEPS;
  while (strong - weak > 1) {
    const step = Math.floor((weak + strong) / 2);
    const tried = withStrength(step);
    const read = yield tried;
    if (read?.class === 'clear') {
      strong = step;
      clearest = tried;
      reading = read;
    } else weak = step;
  }
  return { choice: clearest, reading };
}

function isBetter({ reading }: Chosen, than: Chosen): boolean {
  return reading !== null && (than.reading === null || readsBetter(reading, than.reading));
}

export function rescueColour(inkLightness: number): string {
  return inkLightness > BRIGHT_INK ? '#000000' : '#ffffff';
}
