import { z } from 'zod';
import { finishesSchema } from './finish.ts';
import { artworkOriginSchema } from './origin.ts';
import { penDrawingSchema } from './pen.ts';
import { ANGLE_MAX_DEG } from './preset.ts';

/**
 * What the designer makes: layers in drawing order, the first at the bottom, on a plane without
 * edges. Units are those of the drawing (`BASE_UNITS` of finish.ts); y points down.
 */

const MAX_LAYERS = 60;
const MAX_TEXT = 400;
const MAX_PATH_CHARACTERS = 1_000_000;
const MAX_UNITS = 100_000;
const LEAST_SCALE = 0.001;
const MOST_SCALE = 1_000;

/** The em of lettering before it is sized, units. */
export const EM_UNITS = 100;

const units = z.number().min(-MAX_UNITS).max(MAX_UNITS);
const length = z.number().positive().max(MAX_UNITS);
const scale = z.number().min(LEAST_SCALE).max(MOST_SCALE);
const share = z.number().min(0).max(1);
const colourSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/);

export const layerPlaceSchema = z.strictObject({
  /** Where the layer's own origin lies. */
  x: units.default(0),
  y: units.default(0),
  scaleX: scale.default(1),
  scaleY: scale.default(1),
  /** Degrees clockwise. */
  turn: z.number().min(-ANGLE_MAX_DEG).max(ANGLE_MAX_DEG).default(0),
});

export const fontChoiceSchema = z.strictObject({
  /** A family of the shipped fonts, or `own-` and a number for one that was added. */
  family: z.string().min(1).max(80),
  weight: z.number().int().min(1).max(1_000).default(400),
  italic: z.boolean().default(false),
});

export const LINE_RANGES = Object.freeze({
  weight: { least: 0.5, most: 40 },
  gap: { least: -40, most: 200 },
  length: { least: 5, most: 300 },
});

/** A line beneath or above lettering. */
export const letteringLineSchema = z.strictObject({
  where: z.enum(['beneath', 'above']).default('beneath'),
  form: z.enum(['straight', 'tapered', 'flourish']).default('straight'),
  /** Percent of the em. */
  weight: z.number().min(LINE_RANGES.weight.least).max(LINE_RANGES.weight.most).default(3),
  gap: z.number().min(LINE_RANGES.gap.least).max(LINE_RANGES.gap.most).default(22),
  /** Percent of the lettering's width. */
  length: z.number().min(LINE_RANGES.length.least).max(LINE_RANGES.length.most).default(100),
  /** Strokes of one's own, for a flourish. */
  drawing: penDrawingSchema.nullable().default(null),
});

export const LETTERING_RANGES = Object.freeze({
  letterSpacing: { least: -20, most: 150 },
  lineSpacing: { least: 0.5, most: 4 },
  arcDeg: { least: -350, most: 350 },
});

export const letteringSchema = z.strictObject({
  /** May hold line breaks and tokens such as `{year}`, which stand for words of the photo. */
  text: z.string().max(MAX_TEXT),
  font: fontChoiceSchema,
  /** Percent of the em, added after each letter. */
  letterSpacing: z
    .number()
    .min(LETTERING_RANGES.letterSpacing.least)
    .max(LETTERING_RANGES.letterSpacing.most)
    .default(0),
  /** Times the font's own. */
  lineSpacing: z
    .number()
    .min(LETTERING_RANGES.lineSpacing.least)
    .max(LETTERING_RANGES.lineSpacing.most)
    .default(1),
  align: z.enum(['left', 'centre', 'right']).default('centre'),
  letterCase: z.enum(['typed', 'capitals', 'small']).default('typed'),
  line: letteringLineSchema.nullable().default(null),
  /** How far the words bend: the angle they span on a circle, 0 is straight, below 0 hangs. */
  arcDeg: z
    .number()
    .min(LETTERING_RANGES.arcDeg.least)
    .max(LETTERING_RANGES.arcDeg.most)
    .default(0),
  /** The outlines as they were set, for where an added font is not at hand. */
  kept: z.string().max(MAX_PATH_CHARACTERS).nullable().default(null),
});

export const SHAPE_KINDS = ['line', 'circle', 'box', 'ring'] as const;

export const shapeSchema = z.strictObject({
  form: z.enum(SHAPE_KINDS),
  width: length.default(200),
  /** Of a line, its weight. */
  height: length.default(200),
  /** Of a ring, its stroke, units. */
  weight: length.default(8),
  /** Of a box, the radius of its corners, units. */
  corner: z.number().min(0).max(MAX_UNITS).default(0),
});

const layerBase = {
  id: z.string().min(1).max(40),
  name: z.string().max(120).default(''),
  place: layerPlaceSchema.prefault({}),
  opacity: share.default(1),
  hidden: z.boolean().default(false),
  locked: z.boolean().default(false),
  /** Layers of one group are moved as one. */
  group: z.string().min(1).max(40).nullable().default(null),
  /** Null: artwork as it came, anything else black. */
  colour: colourSchema.nullable().default(null),
  /** Whether it takes part in tones; else it keeps its colour. */
  toned: z.boolean().default(true),
  finishes: finishesSchema,
};

export const layerSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('lettering'), ...layerBase, lettering: letteringSchema }),
  /** `part` names the artwork among a mark's parts. */
  z.strictObject({
    ...{ kind: z.literal('artwork'), ...layerBase },
    part: z.string().min(1).max(80),
    origin: artworkOriginSchema.prefault({ kind: 'file' }),
  }),
  z.strictObject({ kind: z.literal('pen'), ...layerBase, drawing: penDrawingSchema }),
  z.strictObject({ kind: z.literal('shape'), ...layerBase, shape: shapeSchema }),
]);

export const designSchema = z.strictObject({
  layers: z
    .array(layerSchema)
    .max(MAX_LAYERS)
    .refine((layers) => new Set(layers.map(({ id }) => id)).size === layers.length, {
      message: 'a different id for each layer',
    }),
  /** Of the whole mark. */
  finishes: finishesSchema,
});

const boxSchema = z.strictObject({
  x: z.number(),
  y: z.number(),
  width: z.number().positive(),
  height: z.number().positive(),
});

const MAX_PART_CHARACTERS = 30_000_000;
/** It is written into an attribute, so nothing else may be in it. */
const BASE64 = /^[A-Za-z0-9+/]+={0,2}$/;
const content = z.string().min(1).max(MAX_PART_CHARACTERS);

const partBase = {
  /** The area it shows and its ink box, in its own units. */
  natural: boxSchema,
  ink: boxSchema,
  /** Its silhouette as a path, for outlines and everything soft. */
  contour: content,
};

/** Artwork as a layer holds it, ready to be drawn anywhere. */
export const partSchema = z.discriminatedUnion('kind', [
  /** One path of one colour: the contour itself. */
  z.strictObject({ kind: z.literal('outline'), ...partBase }),
  z.strictObject({ kind: z.literal('svg'), ...partBase, svg: content }),
  z.strictObject({ kind: z.literal('png'), ...partBase, png: content.regex(BASE64) }),
]);

export type LayerPlace = z.infer<typeof layerPlaceSchema>;
export type FontChoice = z.infer<typeof fontChoiceSchema>;
export type LetteringLine = z.infer<typeof letteringLineSchema>;
export type Lettering = z.infer<typeof letteringSchema>;
export type Shape = z.infer<typeof shapeSchema>;
export type ShapeForm = Shape['form'];
export type Layer = z.infer<typeof layerSchema>;
export type LayerKind = Layer['kind'];
export type LayerOf<K extends LayerKind> = Extract<Layer, { kind: K }>;
export type Design = z.infer<typeof designSchema>;
export type Part = z.infer<typeof partSchema>;
export type Parts = Readonly<Record<string, Part>>;
