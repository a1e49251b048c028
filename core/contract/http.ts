import { z } from 'zod';
import { deliveryRuleSchema, type FileType } from './delivery.ts';
import { designSchema, type Design, type Parts, type Part } from './design.ts';
import { finishesSchema, type Finish } from './finish.ts';
import { liftSettingsSchema } from './lift.ts';
import { penDrawingSchema } from './pen.ts';
import { nameSchema, presetRuleSchema } from './preset.ts';
import type { PresetRule } from './preset.ts';
import type { DeliveryRule } from './delivery.ts';
import type { Bleed } from '../compose/rasterPlan.ts';
import type { Box, Size } from '../placement/geometry.ts';
import type { Placement } from '../placement/placeMark.ts';
import { HARD_KINDS } from '../readability/hardPhotos.ts';
import type { ReadBack } from '../verify/readBack.ts';
import type { Readability } from '../readability/measure.ts';

/** What the page asks of the server and what comes back: the only thing the two share. */

const id = z.number().int().positive();
const folderPath = z.string().trim().min(1).max(4_096);

export const idParams = z.strictObject({ id: z.coerce.number().int().positive() });

/** Deliveries that one run goes out by, at most. */
export const MOST_DELIVERIES = 20;
const deliveryIds = z.array(id).max(MOST_DELIVERIES);

export const batchBody = z.strictObject({
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
export const batchChangeBody = batchBody
  .partial()
  .extend({ pins: pinsSchema.optional(), placing: placingSchema.nullable().optional() });

/** A dropped file's own name and date; browsers give the date in milliseconds. */
export const uploadQuery = z.strictObject({
  name: z.string().min(1).max(1_000),
  modified: z.coerce.number().int().min(0).optional(),
});
export const folderImportBody = z.strictObject({ path: folderPath });
export const removePhotosBody = z.strictObject({ ids: z.array(id).min(1).max(20_000) });

/** `anywhere`: names of folders that are not allowed yet, so that one can be chosen and allowed. */
export const folderQuery = z.strictObject({
  path: z.string().max(4_096).optional(),
  anywhere: z.stringbool().default(false),
});
/** `allow`: it is allowed with that. */
export const newFolderBody = z.strictObject({
  path: folderPath,
  allow: z.boolean().default(false),
});

const pageNumber = z.coerce.number().int().positive();
const toneText = z.string().regex(/^(light|dark|original|[0-9a-fA-F]{6})$/);

export const artworkQuery = z.strictObject({ name: z.string().min(1).max(1_000) });
/** The page of a PDF that was brought in as a scan, as artwork. */
export const pageArtworkBody = z.strictObject({ scanId: id, page: pageNumber });
export const scanPageQuery = z.strictObject({
  page: pageNumber.default(1),
  /** For a small picture: its longer side, px. */
  small: z.coerce.number().int().min(16).max(1_024).optional(),
});
/** Keeps what was lifted: as a new mark, or as the artwork of one that exists. */
export const liftBody = z.strictObject({
  page: pageNumber.default(1),
  settings: liftSettingsSchema,
  name: nameSchema,
  markId: id.nullable().default(null),
});
export const penBody = z.strictObject({
  drawing: penDrawingSchema,
  name: nameSchema,
  markId: id.nullable().default(null),
});
/** What to do about a box of one colour round the artwork. */
export const boxBody = z.strictObject({ take: z.enum(['keep', 'outside', 'everywhere']) });
/** A design as it is now; the artwork of its layers is known to the server by name. */
export const designBody = z.strictObject({
  name: nameSchema.optional(),
  design: designSchema,
  /** Version of the mark that the change was made to; left out, it replaces whatever is there. */
  baseVersion: z.number().int().positive().optional(),
});
export const newDesignBody = z.strictObject({ name: nameSchema, design: designSchema });
/** A picture of a design that need not be saved. */
export const designPictureBody = z.strictObject({
  design: designSchema,
  tone: toneText.default('original'),
  year: z.number().int().min(1).max(9_999),
  /** Device pixels a unit of the drawing. */
  scale: z.number().positive().max(20),
});
export const fontFaceParams = z.strictObject({
  family: z.string().regex(/^[a-z0-9-]{1,80}$/),
  weight: z.coerce.number().int().min(1).max(1_000),
  slant: z.enum(['upright', 'italic']),
});
export const finishSetBody = z.strictObject({ name: nameSchema, finishes: finishesSchema });

export const downloadQuery = z.strictObject({
  type: z.enum(['png', 'svg']),
  tone: toneText.default('original'),
  width: z.coerce.number().int().min(8).max(8_192).default(2_000),
});
export const markChangeBody = z.strictObject({
  name: nameSchema.optional(),
  retired: z.boolean().optional(),
});
export const rasterQuery = z.strictObject({
  version: z.coerce.number().int().positive(),
  tone: toneText,
  width: z.coerce.number().int().min(8).max(4_096),
  year: z.coerce.number().int().min(1).max(9_999).optional(),
});

/** The version a change was made to; left out, it replaces whatever is there. */
const baseVersion = z.number().int().positive().optional();

export const presetBody = z.strictObject({
  name: nameSchema,
  markId: id,
  rule: presetRuleSchema,
  baseVersion,
});
export const versionParams = idParams.extend({ version: z.coerce.number().int().positive() });
export const binParams = z.strictObject({
  kind: z.enum(['marks', 'presets', 'deliveries', 'batches']),
  id: z.coerce.number().int().positive(),
});
export const favouriteBody = z.strictObject({ favourite: z.boolean() });
/** All presets, in the order they are to stand in. */
export const presetOrderBody = z.strictObject({ ids: z.array(id).max(10_000) });

export const deliveryBody = z.strictObject({
  name: nameSchema,
  presetId: id.nullable().default(null),
  rule: deliveryRuleSchema,
  folder: folderPath.nullable().default(null),
  favourite: z.boolean().default(true),
  baseVersion,
});

/** The photo that a delivery is tried on. */
export const tryBody = z.strictObject({ photoId: id });
export const tryParams = z.strictObject({ key: z.uuid() });

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
  /** Null: all photos of the batch. */
  photoIds: z.array(id).min(1).max(20_000).nullable().default(null),
});

/** Runs under way, in the order in which they are to be worked off. */
export const runOrderBody = z.strictObject({ ids: z.array(id).min(1).max(1_000) });

export type LiftWish = z.infer<typeof liftBody>;
export type PenWish = z.infer<typeof penBody>;
export type RunWish = z.infer<typeof runBody>;
export type PresetWish = z.infer<typeof presetBody>;
export type DeliveryWish = z.infer<typeof deliveryBody>;
export type BatchWish = z.infer<typeof batchBody>;
export type BatchChangeWish = z.infer<typeof batchChangeBody>;
export type Placing = z.infer<typeof placingSchema>;
export type Pins = z.infer<typeof pinsSchema>;

export interface ErrorAnswer {
  readonly code: string;
  readonly message: string;
  /** For a body that does not validate: a sentence a key. */
  readonly details: Readonly<Record<string, string>>;
}

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
  /** Mean L*, 0 to 100. */
  readonly lightness: number;
  /** Counted up when it was read again; its pictures are asked for by it. */
  readonly version: number;
  /** What should be known of it, such as that it has changed on disk. */
  readonly note: string | null;
}

export interface MarkView {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly kind: 'svg' | 'png';
  /** In units of the artwork: pixels of a PNG. */
  readonly ink: Box;
  /** What is drawn beyond the ink box on each side, as shares of its width and height. */
  readonly bleed: Bleed;
  /** Where its words follow the year of the photo: its shape in the years there are photos of. */
  readonly years: Readonly<Record<string, MarkYear>> | null;
  readonly notes: readonly string[];
  readonly retired: boolean;
  readonly usedBy: readonly string[];
  readonly origin: 'file' | 'paper' | 'pen' | 'design';
  /** The scan it was lifted from, where that is still here. */
  readonly scanId: number | null;
  readonly box: MarkBox | null;
  /** Still being lifted from its scan: its ink box is a guess, and pictures of it are waited for. */
  readonly isPending: boolean;
}

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

/** Something as it was before, newest first in a list. */
export interface EarlierVersion<T> {
  readonly version: number;
  /** Null: before this was noted. */
  readonly madeAt: string | null;
  readonly value: T;
}

export type EarlierMark = Pick<MarkView, 'ink' | 'bleed'>;
export type EarlierPreset = Pick<PresetView, 'name' | 'markId' | 'rule'>;
export type EarlierDelivery = Pick<DeliveryView, 'name' | 'presetId' | 'rule' | 'folder'>;

/** Photos, marks and presets to try everything with. */
export interface ExamplesView {
  readonly isThere: boolean;
  /** Null also where the batch was deleted by itself. */
  readonly batchId: number | null;
}

export interface MarkYear {
  readonly ink: Box;
  readonly bleed: Bleed;
}

/** A box of one colour round artwork. */
export interface MarkBox {
  /** `#rrggbb` */
  readonly colour: string;
  /** Version of the artwork that still has the box. */
  readonly version: number;
  /** Null: not asked yet. */
  readonly taken: 'keep' | 'outside' | 'everywhere' | null;
}

/** A mark as layers, with the artwork they use. */
export interface DesignView {
  /** Of the mark it was opened from; a change is made to that. */
  readonly version?: number;
  readonly design: Design;
  readonly parts: Parts;
}

export interface PartView {
  readonly key: string;
  readonly part: Part;
  readonly name: string;
  readonly notes: readonly string[];
}

export interface FontView {
  /** How designs name it. */
  readonly id: string;
  readonly name: string;
  readonly kind: 'hand' | 'serif' | 'sans' | 'own';
  /** Words that find it, besides its name. */
  readonly words: string;
  readonly faces: readonly { readonly weight: number; readonly italic: boolean }[];
}

export interface FinishSetView {
  readonly id: number;
  readonly name: string;
  readonly finishes: readonly Finish[];
}

export interface ScanView {
  readonly id: number;
  readonly name: string;
  readonly format: string;
  readonly pages: number;
}

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
  readonly rule: DeliveryRule;
  readonly folder: string | null;
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

/** Programs beside Light Crest, that some of what it does needs. */
export interface ToolsView {
  /** The command that brings what untouched JPEGs need, where that is missing. */
  readonly untouched: string | null;
}

export interface FolderView {
  /** Null: the places to begin with. */
  readonly path: string | null;
  readonly parent: string | null;
  readonly folders: readonly FolderEntry[];
  readonly photoCount: number;
  /** May be read and written; what is not is allowed when it is chosen. */
  readonly isAllowed: boolean;
}

export interface FolderEntry {
  readonly name: string;
  readonly path: string;
  /** Of a place to begin with: home, a disk that is plugged in, used last, allowed. */
  readonly kind?: 'home' | 'disk' | 'last' | 'allowed';
}

/** Photos of the batch worked on last, as different as it has them. */
export interface SamplesView {
  readonly batch: BatchView | null;
  readonly photos: readonly PhotoView[];
}

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
  readonly examples: readonly string[];
  /** Outputs whose name is taken in the folder already. */
  readonly existing: number;
  /** Outputs whose name another of this run has as well. */
  readonly sameNames: number;
  readonly estimatedBytes: number;
  /** Photos of more than 8 bits a channel, which this file type keeps at 8. */
  readonly reducedBits: number;
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
}

export interface RunDetailView {
  readonly run: RunView;
  readonly items: readonly RunItemView[];
  /** Photos of its batch that it did not have. */
  readonly addedSince: number;
}

/** Server-sent events, by name. */
export interface ServerEvents {
  /** Progress of a run, with each photo that ends. */
  run: RunView;
  /** A run was removed. */
  'run-gone': { readonly id: number };
  /** Progress of a folder being read into a batch. */
  import: ImportView;
  /** Photos of a batch are other than they were: read again, away or back. */
  photos: { readonly batchId: number };
  /** Something that other windows may show was changed, and by which window. */
  changed: { readonly what: ChangedKind; readonly id: number | null; readonly tab: string | null };
}

/** What a window may have to ask for again. */
export const CHANGED_KINDS = ['marks', 'presets', 'deliveries', 'settings', 'batches'] as const;
export type ChangedKind = (typeof CHANGED_KINDS)[number];

export interface ImportView {
  readonly batchId: number;
  readonly folder: string;
  readonly total: number;
  readonly done: number;
  readonly added: number;
  readonly already: number;
  /** The first of those that are no photos or could not be read. */
  readonly refused: readonly { readonly name: string; readonly reason: string }[];
  readonly refusedCount: number;
  readonly state: 'reading' | 'paused' | 'done' | 'cancelled';
  /** What is in its way, where it was paused by itself. */
  readonly problem: string | null;
}
