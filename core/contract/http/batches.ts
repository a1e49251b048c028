import { z } from 'zod';
import { HARD_KINDS } from '../../readability/hardPhotos.ts';
import { MARKS_MAX, nameSchema, presetRuleSchema } from '../preset.ts';
import { folderPath, id } from './common.ts';

/** Batches and their photos, as page and server speak of them. */

/** Deliveries that one run goes out by, at most. */
export const MOST_DELIVERIES = 20;

export const deliveryIds = z.array(id).max(MOST_DELIVERIES);

const batchBody = z.strictObject({
  name: nameSchema,
  presetId: id.nullable().optional(),
  deliveryIds: deliveryIds.optional(),
});

export const pinsSchema = z.partialRecord(z.enum(HARD_KINDS), id);

/** What the bench of a batch holds where that is not its preset as it is saved. */
export const placingSchema = z.strictObject({
  markId: id.nullable(),
  rule: presetRuleSchema,
  /** Version of the preset it was changed from; 0: of none. */
  base: z.number().int().min(0),
});

/** Marks beside the one in hand, the lowest first, and where that one stands among them. */
export const besideSchema = z.strictObject({
  at: z
    .number()
    .int()
    .min(0)
    .max(MARKS_MAX - 1)
    .default(0),
  marks: z
    .array(
      z.strictObject({
        presetId: id,
        /** Null: the preset as it is saved. */
        placing: placingSchema.nullable().default(null),
      }),
    )
    .max(MARKS_MAX - 1)
    .default([]),
});

export const NOTHING_BESIDE: Beside = Object.freeze({ at: 0, marks: [] });

export const newBatchBody = batchBody.extend({ beside: besideSchema.optional() });

export const batchChangeBody = batchBody.partial().extend({
  pins: pinsSchema.optional(),
  placing: placingSchema.nullable().optional(),
  beside: besideSchema.optional(),
});

/** Presets that are laid over each other, under one name. */
export const markSetBody = z.strictObject({
  name: nameSchema,
  presetIds: z.array(id).min(2).max(MARKS_MAX),
});

export interface MarkSetView {
  readonly id: number;
  readonly name: string;
  /** The lowest first; those that are gone are left out. */
  readonly presetIds: readonly number[];
}

/** A dropped file's own name and date; browsers give the date in milliseconds. */
export const uploadQuery = z.strictObject({
  name: z.string().min(1).max(1_000),
  modified: z.coerce.number().int().min(0).optional(),
});

export const folderImportBody = z.strictObject({ path: folderPath });

export const removePhotosBody = z.strictObject({ ids: z.array(id).min(1).max(20_000) });

export type BatchWish = z.infer<typeof newBatchBody>;

export type BatchChangeWish = z.infer<typeof batchChangeBody>;

export type Placing = z.infer<typeof placingSchema>;

export type Beside = z.infer<typeof besideSchema>;

export type Pins = z.infer<typeof pinsSchema>;

export interface BatchView {
  readonly id: number;
  readonly name: string;
  readonly presetId: number | null;
  /** Deliveries it goes out by, as they were chosen. */
  readonly deliveryIds: readonly number[];
  readonly openedAt: string;
  readonly photoCount: number;
  readonly coverId: number | null;
  readonly pins: Pins;
  /** Null: its preset as it is saved. */
  readonly placing: Placing | null;
  readonly beside: Beside;
}

export interface PhotoView {
  readonly id: number;
  readonly name: string;
  readonly origin: 'copied' | 'in-place';
  readonly bytes: number;
  readonly format: string;
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly profile: string | null;
  readonly capturedAt: string | null;
  /** Of the capture date, else of the file: what a mark writes that follows the year. */
  readonly year: number;
  readonly camera: string | null;
  readonly lens: string | null;
  /** By its own notes. */
  readonly place: string | null;
  readonly caption: string | null;
  readonly artist: string | null;
  /** Mean L*, 0 to 100. */
  readonly lightness: number;
  /** Counted up when it was read again; its pictures are asked for by it. */
  readonly version: number;
  /** What should be known of it, such as that it has changed on disk. */
  readonly note: string | null;
}

/** Photos, marks and presets to try everything with. */
export interface ExamplesView {
  readonly isThere: boolean;
  /** Null also where the batch was deleted by itself. */
  readonly batchId: number | null;
}

/** Photos of the batch worked on last, as different as it has them. */
export interface SamplesView {
  readonly batch: BatchView | null;
  readonly photos: readonly PhotoView[];
}
