import { z } from 'zod';
import { deliveryRuleSchema } from './delivery.ts';
import { MARKS_MAX, nameSchema, presetRuleSchema } from './preset.ts';

/**
 * A bundle: chosen marks, presets and deliveries as one plain ZIP, to be taken to another computer or handed
 * on. `bundle.json` says what is in it; marks are SVG files that open anywhere and hold how they were made.
 */

export const BUNDLE_FORMAT = Object.freeze({ format: 'light-crest/bundle', version: 1 } as const);
export const BUNDLE_NOTE = 'bundle.json';
/** Things of a kind in a bundle, at most. */
export const BUNDLE_MOST = 500;

/** How things in a bundle name each other. */
const key = z.string().min(1).max(40);
/** Names within the ZIP. */
const markFile = z.string().regex(/^marks\/[\w-]+\.svg$/);
const fontFile = z.string().regex(/^fonts\/[\w-]+\.ttf$/);

export const bundleSchema = z.strictObject({
  format: z.literal(BUNDLE_FORMAT.format),
  version: z.literal(BUNDLE_FORMAT.version),
  /** ISO 8601. */
  made_at: z.string(),
  /** Fonts that may be handed on, and that lettering of its marks is set in. */
  fonts: z
    .array(
      z.strictObject({
        /** As designs name it. */
        family: z.string().min(1).max(100),
        name: z.string().min(1).max(200),
        weight: z.number().int().min(1).max(1_000),
        italic: z.boolean(),
        file: fontFile,
      }),
    )
    .max(BUNDLE_MOST)
    .default([]),
  marks: z
    .array(z.strictObject({ key, name: nameSchema, file: markFile }))
    .max(BUNDLE_MOST)
    .default([]),
  presets: z
    .array(z.strictObject({ key, name: nameSchema, mark: key, rule: presetRuleSchema }))
    .max(BUNDLE_MOST)
    .default([]),
  deliveries: z
    .array(
      z.strictObject({
        key,
        name: nameSchema,
        /** Its own presets, the lowest first. */
        presets: z.array(key).max(MARKS_MAX).default([]),
        rule: deliveryRuleSchema,
      }),
    )
    .max(BUNDLE_MOST)
    .default([]),
});

export type Bundle = z.infer<typeof bundleSchema>;
