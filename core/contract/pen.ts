import { z } from 'zod';

/** A signature signed on screen: strokes as points, so that the pen can be changed afterwards. */

const MAX_STROKES = 400;
const MAX_NUMBERS = 30_000;

export const PEN_RANGES = Object.freeze({ weightPx: { least: 1, most: 60 } });

export const penStrokeSchema = z.strictObject({
  /** x, y in px of the sheet and pressure 0 to 1, one after the other. */
  points: z.array(z.number().min(-20_000).max(20_000)).min(3).max(MAX_NUMBERS),
  /** Whether the pressure is a stylus's own; otherwise speed stands in for it. */
  pressure: z.boolean(),
});

export const penSettingsSchema = z.strictObject({
  /** Width of a stroke at middling pressure, px of the sheet. */
  weight: z.number().min(PEN_RANGES.weightPx.least).max(PEN_RANGES.weightPx.most).default(9),
  /** How much pressure or speed changes the width, 0 to 1. */
  contrast: z.number().min(0).max(1).default(0.55),
  /** Tremor smoothed away, 0 to 1. */
  smoothing: z.number().min(0).max(1).default(0.45),
});

export const penDrawingSchema = z.strictObject({
  strokes: z.array(penStrokeSchema).min(1).max(MAX_STROKES),
  pen: penSettingsSchema.default(() => penSettingsSchema.parse({})),
});

export type PenStroke = z.infer<typeof penStrokeSchema>;
export type PenSettings = z.infer<typeof penSettingsSchema>;
export type PenDrawing = z.infer<typeof penDrawingSchema>;
