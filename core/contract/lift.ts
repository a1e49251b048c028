import { z } from 'zod';

/**
 * How ink is lifted from paper: kept with the mark, so that a lift can be reopened and changed.
 * Places are fractions of the picture, so the same settings serve a reduced copy and the full size;
 * lengths are pixels of the full size.
 */

export const QUARTER_TURNS = [0, 90, 180, 270] as const;
export type QuarterTurn = (typeof QUARTER_TURNS)[number];

export const LIFT_RANGES = Object.freeze({
  angleDeg: 15,
  weightPx: 3,
  speckPx2: 20_000,
  pinholePx2: 20_000,
});

/** Handwork beyond this is somebody's program, not a hand. */
const MAX_STROKES = 500;
const MAX_STROKE_NUMBERS = 8_000;

const fraction = z.number().min(0).max(1);
/** A corner of the sheet may lie a little outside of the picture. */
const cornerPlace = z.number().min(-0.5).max(1.5);
const corner = z.strictObject({ x: cornerPlace, y: cornerPlace });
const reflectance = z.number().min(0).max(2);

export const handStrokeSchema = z.strictObject({
  /** `rub` takes ink away; `keep` brings back what was taken for a speck. */
  does: z.enum(['rub', 'keep']),
  /** As a share of the cropped picture's longer side. */
  radius: z.number().min(0.000_5).max(0.2),
  /** x, y, x, y … as shares of the straightened sheet. */
  points: z.array(z.number().min(-1).max(2)).min(2).max(MAX_STROKE_NUMBERS),
});

export const liftSettingsSchema = z.strictObject({
  /** Corners of the sheet in the photo, clockwise from its top left; null leaves it as it is. */
  corners: z.tuple([corner, corner, corner, corner]).nullable().default(null),
  /** What is taken for paper: the sheet that was found in the photo, or all that is seen. */
  sheet: z.enum(['found', 'whole']).default('found'),
  /** Quarter turns clockwise, after straightening. */
  turn: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]).default(0),
  /** Fine angle, degrees clockwise, after the quarter turns. */
  angle: z.number().min(-LIFT_RANGES.angleDeg).max(LIFT_RANGES.angleDeg).default(0),
  /** Part of the straightened, turned sheet that is lifted; null takes all of it. */
  crop: z
    .strictObject({ x: fraction, y: fraction, width: fraction, height: fraction })
    .nullable()
    .default(null),
  /** Reflectance that counts as bare paper and as solid ink; null finds it. */
  paper: reflectance.nullable().default(null),
  ink: reflectance.nullable().default(null),
  /** Reflectance of solid ink for red, green, blue, picked on the sheet; null finds it. */
  inkColour: z.tuple([reflectance, reflectance, reflectance]).nullable().default(null),
  /** −1 soft, 0 as scanned, 1 crisp. */
  edge: z.number().min(-1).max(1).default(0),
  /** Strokes grow or shrink by this on each side, px. */
  weight: z.number().min(-LIFT_RANGES.weightPx).max(LIFT_RANGES.weightPx).default(0),
  /** Ink areas up to this are specks, px²; null chooses by the strokes. */
  specks: z.number().min(0).max(LIFT_RANGES.speckPx2).nullable().default(null),
  /** Holes in the ink up to this are filled, px²; null chooses by the strokes. */
  pinholes: z.number().min(0).max(LIFT_RANGES.pinholePx2).nullable().default(null),
  strokes: z.array(handStrokeSchema).max(MAX_STROKES).default([]),
  /** `one`: the ink is one colour and tones come from alpha; `keep`: colours stay, paper goes. */
  colours: z.enum(['one', 'keep']).default('one'),
  /** Outlines from faithful (0) to smooth (1). */
  smoothing: z.number().min(0).max(1).default(0.35),
  /** `auto` keeps outlines where they are within tolerance, otherwise pixels. */
  form: z.enum(['auto', 'outlines', 'pixels']).default('auto'),
});

export type LiftSettings = z.infer<typeof liftSettingsSchema>;
export type HandStroke = z.infer<typeof handStrokeSchema>;

export const DEFAULT_LIFT: LiftSettings = Object.freeze(liftSettingsSchema.parse({}));
