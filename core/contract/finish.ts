import { z } from 'zod';

/**
 * Finishes of a layer or of a whole mark. Lengths are percent of a mark's base, `BASE_UNITS` units
 * of its drawing: the long side a mark has when it is begun. So a finish looks the same at every
 * size, and the same in every mark it is copied to.
 */

export const BASE_UNITS = 1_000;

/** Units of a drawing that a percentage in a finish stands for. */
export function unitsOf(percent: number): number {
  return (percent * BASE_UNITS) / 100;
}

const FULL_TURN_DEG = 360;

export const FINISH_RANGES = Object.freeze({
  outlineWidth: { least: 0.05, most: 6 },
  glowRadius: { least: 0.2, most: 12 },
  shadowDistance: { least: 0, most: 12 },
  shadowSoftness: { least: 0, most: 10 },
  bevelSize: { least: 0.1, most: 4 },
  platePadding: { least: 0, most: 20 },
});

const within = ({ least, most }: { readonly least: number; readonly most: number }) =>
  z.number().min(least).max(most);
const share = z.number().min(0).max(1);
const angleDeg = z.number().min(-FULL_TURN_DEG).max(FULL_TURN_DEG);

/**
 * `ink` is the colour of what is finished, `contrast` the opposite of the tone it is shown in: dark
 * round light ink and light round dark.
 */
export const finishColourSchema = z
  .string()
  .regex(/^(?:ink|contrast|#[0-9a-fA-F]{6})$/)
  .meta({ description: 'ink, contrast or a colour as #rrggbb' });

export const PLATE_SHAPES = ['box', 'rounded', 'pill', 'cloud'] as const;

export const finishSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('outline'),
    /** All of what is seen of it, percent of the base. */
    width: within(FINISH_RANGES.outlineWidth).default(0.6),
    colour: finishColourSchema.default('contrast'),
    position: z.enum(['outside', 'centred']).default('outside'),
    strength: share.default(1),
  }),
  z.strictObject({
    kind: z.literal('glow'),
    radius: within(FINISH_RANGES.glowRadius).default(2.4),
    colour: finishColourSchema.default('contrast'),
    /** From a breath of light to one that is solid near the ink. */
    strength: share.default(0.5),
    opacity: share.default(0.8),
  }),
  z.strictObject({
    kind: z.literal('shadow'),
    distance: within(FINISH_RANGES.shadowDistance).default(0.8),
    /** Where it falls: degrees clockwise from the right, so 90 is downwards. */
    angle: angleDeg.default(55),
    softness: within(FINISH_RANGES.shadowSoftness).default(1),
    colour: finishColourSchema.default('contrast'),
    strength: share.default(0.6),
  }),
  z.strictObject({
    kind: z.literal('bevel'),
    size: within(FINISH_RANGES.bevelSize).default(0.7),
    depth: share.default(0.6),
    /** Where the light comes from: degrees clockwise from the right, so -90 is from above. */
    angle: angleDeg.default(-125),
    form: z.enum(['raised', 'pressed']).default('raised'),
  }),
  z.strictObject({
    kind: z.literal('fill'),
    /** Of the ink itself; its finishes stay as strong as they are. */
    opacity: share.default(0.25),
  }),
  z.strictObject({
    kind: z.literal('plate'),
    shape: z.enum(PLATE_SHAPES).default('rounded'),
    padding: within(FINISH_RANGES.platePadding).default(4),
    colour: finishColourSchema.default('contrast'),
    strength: share.default(0.45),
  }),
  z.strictObject({
    kind: z.literal('crispness'),
    /** Sharpening after the mark was scaled for a photo. Of the whole mark only. */
    amount: share.default(0.35),
  }),
]);

export type Finish = z.infer<typeof finishSchema>;
export type FinishKind = Finish['kind'];
export type FinishOf<K extends FinishKind> = Extract<Finish, { kind: K }>;

/** In the order in which they lie on each other, from below, and are offered. */
export const FINISH_KINDS = [
  'outline',
  'glow',
  'shadow',
  'bevel',
  'fill',
  'plate',
  'crispness',
] as const satisfies readonly FinishKind[];

/** At most one of a kind. */
export const finishesSchema = z
  .array(finishSchema)
  .max(FINISH_KINDS.length)
  .refine((all) => new Set(all.map(({ kind }) => kind)).size === all.length, {
    message: 'each finish once at most',
  })
  .default([]);

export function defaultFinish<K extends FinishKind>(kind: K): FinishOf<K> {
  return finishSchema.parse({ kind }) as FinishOf<K>;
}

/** A set of finishes under a name, for any mark. */
export const finishSetSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  finishes: finishesSchema,
});
export type FinishSet = z.infer<typeof finishSetSchema>;
