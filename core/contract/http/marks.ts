import { z } from 'zod';
import type { Bleed } from '../../compose/rasterPlan.ts';
import type { Box } from '../../placement/geometry.ts';
import { type Design, type Part, type Parts, designSchema } from '../design.ts';
import { type Finish, finishesSchema } from '../finish.ts';
import { liftSettingsSchema } from '../lift.ts';
import { penDrawingSchema } from '../pen.ts';
import { WORD_TOKENS, type WordToken } from '../../lettering/words.ts';
import { photoWordsSchema, WORD_MAX_LENGTH, wordsText } from '../words.ts';
import { nameSchema } from '../preset.ts';
import { id, pageNumber, toneText } from './common.ts';

/** Marks, and all that they are made from. */

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
  words: photoWordsSchema,
  /** Device pixels a unit of the drawing. */
  scale: z.number().positive().max(20),
});

export const fontFaceParams = z.strictObject({
  family: z.string().regex(/^[a-z0-9-]{1,80}$/),
  weight: z.coerce.number().int().min(1).max(1_000),
  slant: z.enum(['upright', 'italic']),
});

export const finishSetBody = z.strictObject({ name: nameSchema, finishes: finishesSchema });

const frameSide = z.coerce.number().int().min(16).max(8_192);

export const downloadQuery = z.strictObject({
  type: z.enum(['png', 'svg']),
  tone: toneText.default('original'),
  width: z.coerce.number().int().min(8).max(8_192).default(2_000),
});

/** A whole frame with the mark in it. */
export const frameQuery = z.strictObject({
  width: frameSide,
  height: frameSide,
  /** Without one, the defaults of presets. */
  preset: z.coerce.number().int().positive().optional(),
  /** Without one, the preset's. */
  tone: toneText.optional(),
  /** As a file to be kept, else to be looked at. */
  download: z.coerce.boolean().default(false),
});

export const markChangeBody = z.strictObject({
  name: nameSchema.optional(),
  retired: z.boolean().optional(),
});

/** What marks of a version are like with words of photos: in the order of the mark's tokens, for each photo. */
export const shapesBody = z.strictObject({
  version: z.number().int().positive(),
  words: z.array(z.array(z.string().max(WORD_MAX_LENGTH)).max(WORD_TOKENS.length)).max(1_000),
});

export const rasterQuery = z.strictObject({
  version: z.coerce.number().int().positive(),
  tone: toneText,
  width: z.coerce.number().int().min(8).max(4_096),
  words: wordsText.optional(),
});

export type LiftWish = z.infer<typeof liftBody>;

export type PenWish = z.infer<typeof penBody>;

export interface MarkView {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly kind: 'svg' | 'png';
  /** In units of the artwork: pixels of a PNG. */
  readonly ink: Box;
  /** What is drawn beyond the ink box on each side, as shares of its width and height. */
  readonly bleed: Bleed;
  /** Words of the photo that its lettering takes; its shape then depends on them. */
  readonly tokens: readonly WordToken[];
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

export type EarlierMark = Pick<MarkView, 'ink' | 'bleed'>;

export interface MarkShapeView {
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
