import { z } from 'zod';
import { adjustmentSchema } from './adjustment.ts';
import { resizeSchema } from './delivery.ts';
import { ANCHORS, MARKS_MAX, presetRuleSchema, RESCUES, toneSchema } from './preset.ts';
import { wordsText } from './words.ts';
import type { Rgb } from '../colour/hex.ts';
import type { Choice } from '../readability/choice.ts';
import type { Readability } from '../readability/measure.ts';

/** What the page and the server say to each other about readability and about photos seen closely. */

const id = z.number().int().positive();

/** How a mark is to lie on a photo, worked out by the page: by a preset, with the photo's adjustment. */
const markWish = z.strictObject({
  markId: id,
  rule: presetRuleSchema,
  adjustment: adjustmentSchema.default({}),
});

/** The lowest first. */
const markWishes = z.array(markWish).min(1).max(MARKS_MAX);

/** Position of the photo among those that are exported, which a mark may write. */
const number = z.number().int().positive().default(1);

/** Photos are measured in portions, so that the ones in sight come first. */
export const READINGS_AT_ONCE = 48;

export const readingsBody = z.strictObject({
  resize: resizeSchema.nullable(),
  photos: z
    .array(z.strictObject({ photoId: id, number, marks: markWishes }))
    .min(1)
    .max(READINGS_AT_ONCE),
});

export const lightMapsBody = z.strictObject({ ids: z.array(id).min(1).max(1_000) });

export const adjustmentsBody = z.strictObject({
  /** Null takes all of a photo's adjustment back. */
  changes: z
    .array(z.strictObject({ photoId: id, adjustment: adjustmentSchema.nullable() }))
    .min(1)
    .max(2_000),
});

const rescueKind = z.enum(RESCUES).exclude(['none']);

export const choiceSchema = z.strictObject({
  anchor: z.enum(ANCHORS),
  tone: toneSchema,
  opacity: z.number().min(0).max(1),
  rescue: z
    .strictObject({
      kind: rescueKind,
      strength: z.number().min(0).max(1),
      colour: z.string().regex(/^#[0-9a-f]{6}$/),
    })
    .nullable(),
});

/** The longer side of what is seen of a photo at once, device pixels. */
export const REGION_MAX_PX = 8_192;
const regionLength = z.number().int().min(1).max(REGION_MAX_PX);

/** Part of an output, in its own pixels, as the engine makes it. */
export const regionBody = z.strictObject({
  number,
  resize: resizeSchema.nullable(),
  /** The lowest first; none: the photo before it is marked. */
  marks: z.array(z.strictObject({ ...markWish.shape, choice: choiceSchema })).max(MARKS_MAX),
  x: z.number().int().min(0),
  y: z.number().int().min(0),
  width: regionLength,
  height: regionLength,
});

export const inkQuery = z.strictObject({
  version: z.coerce.number().int().positive(),
  /** Of what kind the points are; answers are kept for good by the browser. */
  parts: z.literal('1').optional(),
  words: wordsText.optional(),
});

export const rescueQuery = z.strictObject({
  ...inkQuery.shape,
  kind: rescueKind,
  colour: z.string().regex(/^[0-9a-f]{6}$/),
  width: z.coerce.number().int().min(8).max(4_096),
});

export type ReadingsWish = z.infer<typeof readingsBody>;
export type ReadingWish = ReadingsWish['photos'][number];
export type MarkWish = z.infer<typeof markWish>;
export type RegionWish = z.infer<typeof regionBody>;
export type AdjustmentsWish = z.infer<typeof adjustmentsBody>;

/** How the marks read on a photo, and what was chosen for them. */
export interface ReadingView {
  readonly photoId: number;
  /** In the order of the wish. */
  readonly marks: readonly MarkReading[];
  /** What should be known of the words that the marks take of the photo, as a sentence; or null. */
  readonly wordsNote: string | null;
  /** Boxes stand for letters that the fonts lack. */
  readonly lacksLetters: boolean;
  /** Why it could not be measured. */
  readonly problem: string | null;
}

export interface MarkReading {
  readonly choice: Choice;
  /** It says words of the photo and nothing else, and the photo has none: it is left out. */
  readonly isEmpty: boolean;
  /** Null where nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
}

/** Where a mark has ink, for estimates in the page. */
export interface InkView {
  /** As in `InkPoints`. */
  readonly values: readonly number[];
  /** Mean colour of its ink in its own colours. */
  readonly colour: Rgb;
}
