import { z } from 'zod';
import {
  ANCHORS,
  BLENDS,
  insetSchema,
  offsetSchema,
  presetRuleSchema,
  RESCUES,
  sizeSchema,
  toneRuleSchema,
} from './preset.ts';

/** What was changed by hand for one photo: the rest follows the preset. */

export const STAMPS_MAX = 40;
export const STAMP_SCALE_MIN = 0.05;
export const STAMP_SCALE_MAX = 20;

/** One more copy of the mark, put where a hand wanted it. */
export const stampSchema = z.strictObject({
  /** Its centre, as shares of the frame's width and height. */
  x: z.number().min(0).max(1),
  y: z.number().min(0).max(1),
  /** Times the size of the placed mark. */
  scale: z.number().min(STAMP_SCALE_MIN).max(STAMP_SCALE_MAX).default(1),
  rotation: presetRuleSchema.shape.rotation,
});

/** What one mark has of its own on one photo. */
const markAdjustment = z.strictObject({
  tone: toneRuleSchema.optional(),
  size: sizeSchema.optional(),
  anchor: z.enum(ANCHORS).optional(),
  inset: insetSchema.optional(),
  offset: offsetSchema.optional(),
  rotation: presetRuleSchema.shape.rotation.unwrap().optional(),
  opacity: presetRuleSchema.shape.opacity.unwrap().optional(),
  blend: z.enum(BLENDS).optional(),
  repeat: presetRuleSchema.shape.repeat.unwrap().optional(),
  rescue: z.enum(RESCUES).optional(),
  stamps: z.array(stampSchema).min(1).max(STAMPS_MAX).optional(),
});

/** Of the first mark, and by their presets of those that lie over it. */
export const adjustmentSchema = z.strictObject({
  ...markAdjustment.shape,
  /** Another preset than the batch's. */
  presetId: z.number().int().positive().optional(),
  over: z.record(z.string().regex(/^[1-9]\d*$/), markAdjustment).optional(),
  /** No export of this photo. */
  leftOut: z.literal(true).optional(),
});

export type Stamp = z.infer<typeof stampSchema>;
export type MarkAdjustment = z.infer<typeof markAdjustment>;
export type Adjustment = z.infer<typeof adjustmentSchema>;
