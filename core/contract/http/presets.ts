import { z } from 'zod';
import type { Box, Size } from '../../placement/geometry.ts';
import { type DeliveryRule, deliveryRuleSchema } from '../delivery.ts';
import { MARKS_MAX, type PresetRule, nameSchema, presetRuleSchema } from '../preset.ts';
import { baseVersion, folderPath, id } from './common.ts';

/** Presets, deliveries, and what was deleted of them. */

export const presetBody = z.strictObject({
  name: nameSchema,
  markId: id,
  rule: presetRuleSchema,
  baseVersion,
});

export const binParams = z.strictObject({
  kind: z.enum(['marks', 'presets', 'deliveries', 'batches']),
  id: z.coerce.number().int().positive(),
});

export const favouriteBody = z.strictObject({ favourite: z.boolean() });

/** All presets, in the order they are to stand in. */
export const presetOrderBody = z.strictObject({ ids: z.array(id).max(10_000) });

/** Below the folder of a delivery: one of the batch's name, or of the day of the run. */
export const SUBFOLDERS = ['none', 'batch', 'date'] as const;
export type Subfolder = (typeof SUBFOLDERS)[number];

export const deliveryBody = z.strictObject({
  name: nameSchema,
  presetId: id.nullable().default(null),
  /** Presets laid over that one, the lowest first. */
  overIds: z
    .array(id)
    .max(MARKS_MAX - 1)
    .readonly()
    .default([]),
  rule: deliveryRuleSchema,
  folder: folderPath.nullable().default(null),
  subfolder: z.enum(SUBFOLDERS).default('none'),
  /** Whether what it made is downloaded as one ZIP when a run has ended. */
  zip: z.boolean().default(false),
  favourite: z.boolean().default(true),
  baseVersion,
});

/** The photo that a delivery is tried on. */
export const tryBody = z.strictObject({ photoId: id });

export const tryParams = z.strictObject({ key: z.uuid() });

export type PresetWish = z.infer<typeof presetBody>;

export type DeliveryWish = z.infer<typeof deliveryBody>;

/** What can be deleted and put back. */
export type BinKind = 'marks' | 'presets' | 'deliveries' | 'batches';

/** Something that was deleted. */
export interface BinEntry {
  readonly kind: BinKind;
  readonly id: number;
  readonly name: string;
  readonly deletedAt: string;
  /** Whole days until it goes by itself. */
  readonly daysLeft: number;
}

export type EarlierPreset = Pick<PresetView, 'name' | 'markId' | 'rule'>;

export type EarlierDelivery = Pick<
  DeliveryView,
  'name' | 'presetId' | 'overIds' | 'rule' | 'folder'
>;

export interface PresetView {
  readonly id: number;
  readonly name: string;
  readonly markId: number;
  readonly rule: PresetRule;
  readonly updatedAt: string;
  readonly favourite: boolean;
  /** Runs it was used for. */
  readonly uses: number;
  readonly usedAt: string | null;
  /** Counted up with each change of what it says. */
  readonly version: number;
  /** Deliveries that use it, by name. */
  readonly usedBy: readonly string[];
}

export interface DeliveryView {
  readonly id: number;
  readonly name: string;
  readonly presetId: number | null;
  /** Presets laid over that, the lowest first. */
  readonly overIds: readonly number[];
  readonly rule: DeliveryRule;
  readonly folder: string | null;
  /** Where a folder was chosen: what is made below it. */
  readonly subfolder: Subfolder;
  /** Whether what it made is downloaded as one ZIP when a run has ended. */
  readonly zip: boolean;
  readonly favourite: boolean;
  /** Counted up with each change. */
  readonly version: number;
}

/** A delivery tried on one photo: the file that a run would write. */
export interface TryView {
  /** Its pictures are asked for by it. */
  readonly key: string;
  readonly name: string;
  readonly frame: Size;
  /** Of the first copy, px of the frame; null: it has no mark. */
  readonly markBox: Box | null;
  readonly note: string | null;
  /** What was found wrong with it when it was opened again; or null. */
  readonly problem: string | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
}
