import type { Rgb } from '../colour/hex.ts';
import { rgbOf } from '../colour/hex.ts';
import type { Adjustment } from '../contract/adjustment.ts';
import { ANCHORS, type Anchor, type PresetRule, type ToneChoice } from '../contract/preset.ts';
import { toneColour } from '../mark/tone.ts';
import { photoRule } from '../placement/adjustment.ts';
import type { Size } from '../placement/geometry.ts';
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
import { KnownPlaces, type Place } from './knownPlaces.ts';
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
  /** Ground under the first copy on the photo, at the anchor chosen: mean L* and mean standard deviation. */
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
  private readonly places = new KnownPlaces();
  /** Most photos of a batch have one rule. */
  private lastTones: RuleTones | null = null;

  // Of the photo that is being estimated; fields, so that going through a batch makes no closures.
  private question!: EstimateQuestion;
  private rule!: PresetRule;
  private tones!: RuleTones;
  /** What was looked at last: the anchor, the place there, and how strong a rescue was under it. */
  private seenAnchor: Anchor | null = null;
  private seenPlace: Place | null = null;
  private seenStrength = 0;
  /** Lightness and bustle of the ground by anchor, without any rescue. */
  private readonly bareGrounds = new Float64Array(ANCHORS.length * 2);

  /** Writes the answer for a photo into `out` from `at` on. */
  estimate(question: EstimateQuestion, out: Float32Array, at: number): void {
    this.question = question;
    this.rule = photoRule(question.rule, question.adjustment, question.frame);
    this.tones = this.tonesOf(this.rule, question.inkColour);
    this.seenAnchor = null;
    this.seenPlace = null;
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
    const { frame, map } = this.question;
    const box = this.placeAt({ ...firstChoice(this.rule), anchor })?.copies[0]?.box;
    return box ? calmness(map, frame, box) : 0;
  };

  private answer(choice: Choice): Reading | null {
    const { ground } = this;
    const strength = choice.rescue?.strength ?? 0;
    // Tones and opacities at the same place are read on the same ground.
    if (choice.anchor !== this.seenAnchor || strength !== this.seenStrength) {
      const { frame, map, points } = this.question;
      const place = this.placeAt(choice);
      this.seenAnchor = place && choice.anchor;
      this.seenPlace = place;
      if (!place) return null;
      place.windows.lay(map, frame, place.copies, points);
      ground.look(map, place.windows, choice.rescue ? this.groundFor(choice.rescue) : undefined);
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

  /** What was looked at last is the choice, unless an earlier anchor was better. */
  private cropShare(choice: Choice): number {
    const place = this.seenAnchor === choice.anchor ? this.seenPlace : this.placeAt(choice);
    return place ? this.places.cropShare(place, this.question.frame) : 1;
  }

  private placeAt(choice: Choice): Place | null {
    const { frame, aspect, rule, adjustment } = this.question;
    return this.places.at(frame, aspect, rule, adjustment, choice);
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
