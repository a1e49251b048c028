import { z } from 'zod';
import type { Size } from '../../placement/geometry.ts';
import type { Placement } from '../../placement/placeMark.ts';
import type { Readability } from '../../readability/measure.ts';
import type { ReadBack } from '../../verify/readBack.ts';
import type { DeliveryKind, FileType } from '../delivery.ts';
import { MARKS_MAX, nameSchema, presetRuleSchema } from '../preset.ts';
import { deliveryIds } from './batches.ts';
import { id } from './common.ts';

/** Runs: as they are wished for, planned, and told of. */

/** A run as wished: the rule is sent whole, since the wall may show one that is not saved. */
export const runBody = z.strictObject({
  batchId: id,
  /** Each photo goes out by each of them. */
  deliveryIds: deliveryIds.min(1),
  presetName: nameSchema,
  /** The saved preset it comes from, so that its use is counted. */
  presetId: id.nullable().optional(),
  markId: id,
  rule: presetRuleSchema,
  /** Marks over that, the lowest first. */
  over: z
    .array(
      z.strictObject({ presetId: id, presetName: nameSchema, markId: id, rule: presetRuleSchema }),
    )
    .max(MARKS_MAX - 1)
    .default([]),
  /** Null: all photos of the batch. */
  photoIds: z.array(id).min(1).max(20_000).nullable().default(null),
  /**
   * Photos in the order in which they are numbered, and lie on sheets and in shows; those it does not
   * name come after. Null: the batch's own order.
   */
  order: z.array(id).max(100_000).nullable().default(null),
  /**
   * The delivery that the wall shows the photos as: it lays the marks above, also where it has presets of its
   * own. Not given: the first. Null: none, so that each lays what it has of its own.
   */
  shownDeliveryId: id.nullable().optional(),
});

/** A sheet of a run that has not begun, to be looked at. */
export const sheetBody = z.strictObject({
  run: runBody,
  /** Of the delivery in the run, from 1. */
  delivery: z.number().int().min(1).max(100),
  /** Of the sheet, from 0. */
  sheet: z.number().int().min(0).max(20_000),
});

/** Asked with the number of the last change that is known, only what has changed since is answered. */
export const runDetailQuery = z.strictObject({ since: z.coerce.number().int().min(0).optional() });

/** All of a run, or what is to be downloaded at its end. */
export const zipQuery = z.strictObject({ of: z.enum(['all', 'zip']).default('all') });

/** Runs under way, in the order in which they are to be worked off. */
export const runOrderBody = z.strictObject({ ids: z.array(id).min(1).max(1_000) });

export type RunWish = z.infer<typeof runBody>;
export type OverWish = RunWish['over'][number];

/** What a run would do, before anything is written. */
export interface RunPlanView {
  readonly photos: number;
  /** Outputs of all deliveries. */
  readonly files: number;
  readonly deliveries: readonly DeliveryPlanView[];
  readonly estimatedBytes: number;
  readonly sourceBytes: number;
  /** Photos left out by hand. */
  readonly leftOut: number;
  /** Photos without a capture date, where the mark writes the year: it is taken from the file. */
  readonly undated: number;
  /** Disks that are written to, each with what it is to hold and what is free on it. */
  readonly disks: readonly DiskPlanView[];
  /** Why the run cannot be started, or null. */
  readonly problem: string | null;
}

/** What a run needs of a disk. */
export interface DiskPlanView {
  /** One of the folders on it. */
  readonly folder: string;
  readonly neededBytes: number;
  readonly freeBytes: number;
}

/** What a run would do for one of its deliveries. */
export interface DeliveryPlanView {
  readonly deliveryId: number;
  readonly name: string;
  /** The name of the preset it goes out with, or null: without a mark. */
  readonly preset: string | null;
  readonly folder: string;
  /** Files that are made: one a photo, or of many photos together. */
  readonly files: number;
  readonly examples: readonly string[];
  /** Outputs whose name is taken in the folder already. */
  readonly existing: number;
  /** Outputs whose name another of this run has as well. */
  readonly sameNames: number;
  readonly estimatedBytes: number;
  /** Photos of more than 8 bits a channel, which this file type keeps at 8. */
  readonly reducedBits: number;
  /** The paper that photos are put on; null: none. */
  readonly paper: PaperPlanView | null;
}

/** Sheets of a delivery to paper, mm. */
export interface PaperPlanView extends Size {
  readonly sheets: number;
  /** Round the trimmed sheet, for bleed and crop marks. */
  readonly room: number;
}

export type RunStateView = 'running' | 'paused' | 'done' | 'cancelled';

export interface RunView {
  readonly id: number;
  readonly batchId: number | null;
  readonly batchName: string;
  readonly deliveries: readonly RunDeliveryView[];
  readonly presetName: string;
  readonly state: RunStateView;
  /** What is in its way, where it was paused by itself. */
  readonly problem: string | null;
  /** Of runs under way, the one of the lowest is worked off first. */
  readonly turn: number;
  readonly createdAt: string;
  readonly finishedAt: string | null;
  readonly total: number;
  readonly written: number;
  readonly skipped: number;
  readonly failed: number;
  readonly cancelled: number;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  readonly coverItemId: number | null;
  /** What it makes of many photos together. */
  readonly documents: readonly RunDocumentsView[];
  /** Null while there is nothing to reckon from. */
  readonly remainingMs: number | null;
  /** Greater for what was told later, also by another server. */
  readonly told: number;
}

/** A delivery as a run began with it. */
export interface RunDeliveryView {
  /** Null: it is gone since. */
  readonly deliveryId: number | null;
  readonly name: string;
  readonly folder: string;
  readonly fileType: FileType;
  readonly kind: DeliveryKind;
  /** Whether what it made is downloaded as one ZIP at the end. */
  readonly zip: boolean;
}

/** The documents of one of a run's deliveries. */
export interface RunDocumentsView {
  /** Of the delivery in the run, from 1. */
  readonly delivery: number;
  /** Files that have their name. */
  readonly written: number;
  readonly skipped: number;
  /** The first file's, while there is one. */
  readonly outputName: string | null;
  readonly bytes: number;
  /** Why it could not be made, or null. */
  readonly error: string | null;
}

export interface RunItemView {
  readonly id: number;
  /** Of its photo in the run, from 1. */
  readonly number: number;
  /** Of its delivery in the run, from 1. */
  readonly delivery: number;
  readonly photoId: number | null;
  readonly sourceName: string;
  readonly status:
    'waiting' | 'working' | 'naming' | 'written' | 'skipped' | 'failed' | 'cancelled';
  readonly outputName: string | null;
  readonly error: string | null;
  /** What should be known of an output that was written, such as where its year came from. */
  readonly note: string | null;
  readonly frame: Size | null;
  readonly placement: Placement | null;
  /** Where placing looked at the photo. */
  readonly readability: Readability | null;
  /** What was found when it was opened again; null: it was not. */
  readonly readBack: ReadBack | null;
  readonly bytesBefore: number | null;
  readonly bytesAfter: number | null;
  readonly durationMs: number | null;
  /** The worker that made it; null: the server's own machine. */
  readonly madeBy: string | null;
}

/** What a run has written and is not where it was written any more. */
export interface RunAwayView {
  /** Ids of outputs. */
  readonly outputs: readonly number[];
  /** How many of what was put together of many photos. */
  readonly documents: number;
}

export interface RunDetailView {
  readonly run: RunView;
  /** All, or with `?since=CHANGE` what has changed since; since 0: what has ended. */
  readonly items: readonly RunItemView[];
  /** Number of the last change that is in it. */
  readonly change: number;
  /** Photos of its batch that it did not have. */
  readonly addedSince: number;
}
