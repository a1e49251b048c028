import { z } from 'zod';

/** What a preset file says (contract, section 5), and the rule inside it that gives a placement. */

export const ANCHORS = [
  'top-left',
  'top',
  'top-right',
  'left',
  'centre',
  'right',
  'bottom-left',
  'bottom',
  'bottom-right',
] as const;

export const SIZE_BASES = [
  'width',
  'height',
  'long-side',
  'short-side',
  'area',
  'pixels',
  'contain',
  'cover',
] as const;

/** Names of the W3C Compositing and Blending specification. */
export const BLENDS = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'luminosity',
] as const;

/** Percent where the basis is relative, pixels where it is `pixels`. */
export const SIZE_MAX_PERCENT = 1_000;
export const SIZE_MAX_PX = 100_000;
export const INSET_MAX_PERCENT = 100;
export const INSET_MAX_PX = 100_000;
export const OFFSET_MAX_PERCENT = 100;
export const ANGLE_MAX_DEG = 360;
export const GAP_MAX_PERCENT = 1_000;
export const NAME_MAX_LENGTH = 120;
/** Marks that may lie over each other on a photo. */
export const MARKS_MAX = 8;
/** Tones that an automatic choice may be among. */
export const AMONG_MAX = 12;

/** What helps a mark that reads nowhere: a soft ring of contrast round its ink, or a plate under it. */
export const RESCUES = ['none', 'halo', 'plate'] as const;

export const nameSchema = z.string().trim().min(1).max(NAME_MAX_LENGTH);

const angleSchema = z.number().min(-ANGLE_MAX_DEG).max(ANGLE_MAX_DEG);

export const toneSchema = z
  .string()
  .regex(/^(?:light|dark|original|#[0-9a-fA-F]{6})$/)
  .meta({ description: 'light, dark, original or a colour as #rrggbb' });

/** One tone for every photo, or for each the one of several that reads best there. */
export const toneRuleSchema = z.union([
  z.strictObject({
    rule: z.literal('auto').default('auto'),
    among: z.array(toneSchema).min(1).max(AMONG_MAX).default(['light', 'dark']),
  }),
  z.strictObject({ rule: z.literal('fixed').default('fixed'), tone: toneSchema }),
]);

export const sizeSchema = z
  .strictObject({
    basis: z.enum(SIZE_BASES).default('long-side'),
    value: z.number().positive().max(SIZE_MAX_PX).default(14),
  })
  .check((context) => {
    const { basis, value } = context.value;
    if (basis !== 'pixels' && value > SIZE_MAX_PERCENT) {
      context.issues.push({
        code: 'too_big',
        origin: 'number',
        maximum: SIZE_MAX_PERCENT,
        inclusive: true,
        input: value,
        path: ['value'],
      });
    }
  });

export const insetSchema = z
  .strictObject({
    unit: z.enum(['percent', 'pixels']).default('percent'),
    x: z.number().min(0).max(INSET_MAX_PX).default(3),
    y: z.number().min(0).max(INSET_MAX_PX).default(3),
  })
  .check((context) => {
    if (context.value.unit !== 'percent') return;
    for (const axis of ['x', 'y'] as const) {
      if (context.value[axis] > INSET_MAX_PERCENT) {
        context.issues.push({
          code: 'too_big',
          origin: 'number',
          maximum: INSET_MAX_PERCENT,
          inclusive: true,
          input: context.value[axis],
          path: [axis],
        });
      }
    }
  });

const offsetAxisSchema = z.number().min(-OFFSET_MAX_PERCENT).max(OFFSET_MAX_PERCENT).default(0);

export const offsetSchema = z.strictObject({ x: offsetAxisSchema, y: offsetAxisSchema });

const gapSchema = z.number().min(0).max(GAP_MAX_PERCENT);

export const repeatSchema = z.strictObject({
  gapX: gapSchema.default(60),
  gapY: gapSchema.default(160),
  stagger: z.boolean().default(true),
  angle: angleSchema.default(-30),
});

/** Steps in which the opacity of a quiet mark is looked for. */
export const OPACITY_STEP = 0.05;

/** One opacity for all, or for each photo the lowest at which the mark is clear there. */
export const opacitySchema = z.union([
  z.number().min(0).max(1),
  z
    .strictObject({
      rule: z.literal('quiet'),
      least: z.number().min(OPACITY_STEP).max(1).default(0.3),
      most: z.number().min(OPACITY_STEP).max(1).default(0.9),
    })
    .check((context) => {
      const { least, most } = context.value;
      if (least <= most) return;
      context.issues.push({
        code: 'too_big',
        origin: 'number',
        maximum: most,
        inclusive: true,
        input: least,
        path: ['least'],
      });
    }),
]);

const anchorSchema = z.enum(ANCHORS);

export const FALLBACK_ORDERS = ['listed', 'calmest'] as const;

export const presetRuleSchema = z.strictObject({
  tone: toneRuleSchema.prefault({}),
  size: sizeSchema.prefault({}),
  anchor: anchorSchema.default('bottom-right'),
  /** Anchors to try, in this order, where the mark is not clear at its own. */
  fallbacks: z.array(anchorSchema).max(ANCHORS.length).default([]),
  /** Whether those are tried as they stand, or on each photo the calmest of them first. */
  fallback_order: z.enum(FALLBACK_ORDERS).default('listed'),
  inset: insetSchema.prefault({}),
  offset: offsetSchema.prefault({}),
  rotation: angleSchema.default(0),
  opacity: opacitySchema.default(0.85),
  blend: z.enum(BLENDS).default('normal'),
  repeat: repeatSchema.nullable().default(null),
  rescue: z.enum(RESCUES).default('none'),
  /** Laid over the rule where the output frame is taller than wide. */
  upright: z
    .strictObject({
      size: sizeSchema,
      anchor: anchorSchema,
      inset: insetSchema,
      offset: offsetSchema,
      rotation: angleSchema,
    })
    .partial()
    .nullable()
    .default(null),
});

/** What a preset file says it is. */
export const PRESET_FORMAT = Object.freeze({ format: 'light-crest/preset', version: 1 } as const);

export const presetFileSchema = z.strictObject({
  format: z.literal(PRESET_FORMAT.format),
  version: z.literal(PRESET_FORMAT.version),
  name: nameSchema,
  ...presetRuleSchema.shape,
});

export type Anchor = (typeof ANCHORS)[number];
export type SizeBasis = (typeof SIZE_BASES)[number];
export type Blend = (typeof BLENDS)[number];
export type ToneChoice = z.infer<typeof toneSchema>;
export type ToneRule = z.infer<typeof toneRuleSchema>;
export type RescueKind = Exclude<(typeof RESCUES)[number], 'none'>;
export type SizeRule = z.infer<typeof sizeSchema>;
export type InsetRule = z.infer<typeof insetSchema>;
export type QuietOpacity = Exclude<PresetRule['opacity'], number>;
export type UprightRule = NonNullable<PresetRule['upright']>;
export type RepeatRule = z.infer<typeof repeatSchema>;
export type PresetRule = z.infer<typeof presetRuleSchema>;
export type PresetFile = z.infer<typeof presetFileSchema>;

/** The rule with every default, as a preset starts. */
export const DEFAULT_RULE: Readonly<PresetRule> = Object.freeze(presetRuleSchema.parse({}));

/** The gaps, stagger and angle a repeat starts with. */
export const DEFAULT_REPEAT: Readonly<RepeatRule> = Object.freeze(repeatSchema.parse({}));
