import type { Rgb } from '../colour/hex.ts';
import { rgbOf } from '../colour/hex.ts';
import type { Adjustment } from '../contract/adjustment.ts';
import { ANCHORS, type Anchor, type PresetRule, type ToneChoice } from '../contract/preset.ts';
import { toneColour } from '../mark/tone.ts';
import { photoRule } from '../placement/adjustment.ts';
import { cleanCrop } from '../placement/cleanCrop.ts';
import type { Size } from '../placement/geometry.ts';
import { placeMark, type Placement } from '../placement/placeMark.ts';
import { blendedLightness, rescuedGround } from './blendedLightness.ts';
import { calmness } from './calmness.ts';
import {
  allowedTones,
  choosing,
  firstChoice,
  mostOpacity,
  type Choice,
  type Chosen,
  type Reading,
} from './choice.ts';
import { GroundLook } from './groundLook.ts';
import type { InkPoints } from './inkPoints.ts';
import { lightness } from './lightness.ts';
import type { LightMap } from './lightMap.ts';
import { classOf } from './measure.ts';

/** What is asked of one photo of a batch. */
export interface EstimateQuestion {
  readonly map: LightMap;
  /** The output frame. */
  readonly frame: Size;
  /** Of the mark in the photo's year. */
  readonly aspect: number;
  readonly points: InkPoints;
  /** Colour that stands for the mark's own colours. */
  readonly inkColour: Rgb;
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
}

/** Where each number of an answer lies in the flat array; a photo has as many as there are. */
export const ESTIMATE = Object.freeze({
  /** Share of the ink that probably reads, 0 to 1; −1 where none lies on the photo. */
  share: 0,
  /** Mean difference between ink and ground, L*. */
  contrast: 1,
  /** Position in `ANCHORS`. */
  anchor: 2,
  /** Position in the tones the rule allows. */
  tone: 3,
  /** Strength of the rescue, 0 where there is none. */
  rescue: 4,
  /** Ground under the first copy at the anchor chosen: mean L* and mean standard deviation. */
  lightness: 5,
  bustle: 6,
  /** Share of the frame that can be cropped free of the mark. */
  cleanCrop: 7,
  /** Share that reads of the part of the mark that reads worst. */
  weakest: 8,
  opacity: 9,
});
export const ESTIMATE_NUMBERS = 10;

interface RuleTones {
  readonly rule: PresetRule;
  readonly ink: Rgb;
  readonly tones: readonly ToneChoice[];
  /** By opacity, the look of each tone. */
  readonly blended: Map<number, readonly Float32Array[]>;
}

/** Blended tables kept: a drag of opacity makes new ones with every step, a quiet mark has some for each. */
const TABLES_KEPT = 200;

/** Goes through a batch: everything that is the same for its photos is worked out once. */
export class BatchEstimator {
  private readonly tables = new Map<string, Float32Array>();
  private readonly grounds = new Map<string, ReturnType<typeof rescuedGround>>();
  private readonly ground = new GroundLook();
  /** Most photos of a batch have one rule. */
  private lastTones: RuleTones | null = null;

  // Of the photo that is being estimated; fields, so that going through a batch makes no closures.
  private question!: EstimateQuestion;
  private rule!: PresetRule;
  private tones!: RuleTones;
  private placement: Placement | null = null;
  private seenStrength = 0;
  /** Lightness and bustle of the ground by anchor, without any rescue. */
  private readonly bareGrounds = new Float64Array(ANCHORS.length * 2);

  /** Writes the answer for a photo into `out` from `at` on. */
  estimate(question: EstimateQuestion, out: Float32Array, at: number): void {
    this.question = question;
    this.rule = photoRule(question.rule, question.adjustment, question.frame);
    this.tones = this.tonesOf(this.rule, question.inkColour);
    this.placement = null;
    this.bareGrounds.fill(0);
    const { choice, reading } = this.chosen();
    out[at + ESTIMATE.share] = reading?.share ?? -1;
    out[at + ESTIMATE.contrast] = reading?.contrast ?? 0;
    const anchor = ANCHORS.indexOf(choice.anchor);
    out[at + ESTIMATE.anchor] = anchor;
    out[at + ESTIMATE.tone] = this.tones.tones.indexOf(choice.tone);
    out[at + ESTIMATE.rescue] = choice.rescue?.strength ?? 0;
    out[at + ESTIMATE.lightness] = this.bareGrounds[anchor * 2];
    out[at + ESTIMATE.bustle] = this.bareGrounds[anchor * 2 + 1];
    out[at + ESTIMATE.cleanCrop] = this.cropShare(choice);
    out[at + ESTIMATE.weakest] = reading?.weakest ?? 0;
    out[at + ESTIMATE.opacity] = choice.opacity;
  }

  /** Runs the policy of `choosing` with answers that are there at once. */
  private chosen(): Chosen {
    const { inkColour } = this.question;
    const policy = choosing(this.rule, (tone) => inkLightnessOf(tone, inkColour), this.calmAt);
    let step = policy.next();
    while (!step.done) step = policy.next(this.answer(step.value));
    return step.value;
  }

  private readonly calmAt = (anchor: Anchor): number => {
    const { frame, aspect, rule, adjustment, map } = this.question;
    const choice = { ...firstChoice(this.rule), anchor };
    const box = placedAt(frame, aspect, rule, adjustment, choice)?.copies[0]?.box;
    return box ? calmness(map, frame, box) : 0;
  };

  private answer(choice: Choice): Reading | null {
    const { ground } = this;
    const strength = choice.rescue?.strength ?? 0;
    // Tones and opacities at the same place are read on the same ground.
    if (choice.anchor !== this.placement?.anchor || strength !== this.seenStrength) {
      const { frame, aspect, adjustment, map, points } = this.question;
      this.placement = placedAt(frame, aspect, this.question.rule, adjustment, choice);
      if (!this.placement) return null;
      const seen = choice.rescue ? this.groundFor(choice.rescue) : undefined;
      ground.look(map, frame, this.placement.copies, points, seen);
      this.seenStrength = strength;
      if (strength === 0) {
        const anchor = ANCHORS.indexOf(choice.anchor);
        this.bareGrounds[anchor * 2] = ground.lightness;
        this.bareGrounds[anchor * 2 + 1] = ground.bustle;
      }
    }
    // Lower opacities are only tried for whether they are clear.
    ground.read(this.blendedFor(choice), choice.opacity < mostOpacity(this.rule));
    const { share, contrast, weakest } = ground;
    return share < 0 ? null : { class: classOf(share, weakest), share, contrast, weakest };
  }

  /** What was placed last is the choice, unless an earlier anchor was better. */
  private cropShare(choice: Choice): number {
    const { frame, aspect, adjustment, rule } = this.question;
    const placed =
      this.placement?.anchor === choice.anchor
        ? this.placement
        : placedAt(frame, aspect, rule, adjustment, choice);
    if (!placed) return 1;
    return cleanCrop(
      frame,
      placed.copies.map((copy) => copy.box),
    ).share;
  }

  private tonesOf(rule: PresetRule, ink: Rgb): RuleTones {
    if (this.lastTones?.rule === rule && this.lastTones.ink === ink) return this.lastTones;
    this.lastTones = { rule, ink, tones: allowedTones(rule), blended: new Map() };
    return this.lastTones;
  }

  private blendedFor({ tone, opacity }: Choice): Float32Array {
    const { tones, blended, ink, rule } = this.tones;
    let tables = blended.get(opacity);
    if (!tables) {
      tables = tones.map((each) => this.tableFor(each, opacity, rule.blend, ink));
      blended.set(opacity, tables);
    }
    return tables[tones.indexOf(tone)];
  }

  private tableFor(
    tone: ToneChoice,
    opacity: number,
    blend: PresetRule['blend'],
    ink: Rgb,
  ): Float32Array {
    const colour = toneColour(tone) ?? ink;
    const key = `${colour.join()}|${opacity}|${blend}`;
    const known = this.tables.get(key);
    if (known) return known;
    if (this.tables.size >= TABLES_KEPT) this.tables.clear();
    const table = blendedLightness(colour, opacity, blend);
    this.tables.set(key, table);
    return table;
  }

  private groundFor({ colour, strength }: NonNullable<Choice['rescue']>) {
    const key = `${colour}${strength}`;
    const known = this.grounds.get(key) ?? rescuedGround(rgbOf(colour), strength);
    this.grounds.set(key, known);
    return known;
  }
}

/** L* of the ink in a tone. @param ink stands for the mark's own colours */
export function inkLightnessOf(tone: ToneChoice, ink: Rgb): number {
  return lightness(...(toneColour(tone) ?? ink));
}

function placedAt(...place: Parameters<typeof placeMark>): Placement | null {
  const placed = placeMark(...place);
  return placed.ok ? placed.value : null;
}
