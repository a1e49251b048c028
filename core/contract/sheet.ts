import { z } from 'zod';
import { namePatternProblem } from '../delivery/namePattern.ts';
import { PAPER_NAMES } from '../sheet/papers.ts';

/** What a delivery says that puts photos on paper. Lengths are in mm. */

export const SHEET_LIES = ['upright', 'across', 'photo'] as const;
export const SHEET_FITS = ['inside', 'fill'] as const;
/** Where the mark goes: on the photo by its preset, into the sheet by the same rule, or both. */
export const SHEET_MARKS = ['photo', 'margin', 'both'] as const;

/** What sheets are written as: one document, or a picture a sheet. */
export const SHEET_FILES = ['pdf', 'tiff', 'jpeg'] as const;
/** Resolution that photos and soft marks are put on paper with, pixels an inch. */
const LEAST_DPI = 72;
const MOST_DPI = 1_200;

/** Sides of a sheet: from a stamp to the longest roll that is cut to sheets. */
const LEAST_SIDE_MM = 20;
const MOST_SIDE_MM = 2_000;
const MOST_MARGIN_MM = 200;
const MOST_GRID = 20;
const MOST_GAP_MM = 100;
const MOST_BLEED_MM = 20;
const LEAST_CAPTION_MM = 1;
const MOST_CAPTION_MM = 20;

const side = z.number().min(LEAST_SIDE_MM).max(MOST_SIDE_MM);
const margin = z.number().min(0).max(MOST_MARGIN_MM).default(10);
const cells = z.number().int().min(1).max(MOST_GRID).default(1);

export const captionSchema = z.strictObject({
  /** With the tokens of file names. */
  pattern: z
    .string()
    .default('{name}')
    .check((context) => {
      const problem = namePatternProblem(context.value);
      if (problem) context.issues.push({ code: 'custom', message: problem, input: context.value });
    }),
  /** Height of a line. */
  size: z.number().min(LEAST_CAPTION_MM).max(MOST_CAPTION_MM).default(3),
});

/** In place of what the preset says, which knows no paper. */
export const marginMarkSchema = z.strictObject({
  width: z.number().min(1).max(MOST_SIDE_MM).nullable().default(null).meta({
    description: "of the mark in the margin; null: as the preset says, of the sheet's sides",
  }),
  inset: z.number().min(0).max(MOST_MARGIN_MM).nullable().default(null).meta({
    description: 'from the edges of the sheet; null: as the preset says',
  }),
});

export const sheetSchema = z.strictObject({
  as: z.enum(SHEET_FILES).default('pdf').meta({
    description: 'pdf: all sheets in one file; tiff, jpeg: a file a sheet, numbered',
  }),
  dpi: z.number().int().min(LEAST_DPI).max(MOST_DPI).default(300).meta({
    description: 'most pixels an inch of photos and soft marks on the paper; none is enlarged',
  }),
  paper: z
    .union([z.enum(PAPER_NAMES), z.strictObject({ width: side, height: side })])
    .default('a4')
    .meta({ description: 'by name, or its own size, mm' }),
  lies: z.enum(SHEET_LIES).default('upright').meta({
    description: 'photo: each sheet lies as the photo on it; of several, as the first',
  }),
  margin: z.strictObject({ top: margin, right: margin, bottom: margin, left: margin }).prefault({}),
  fit: z.enum(SHEET_FITS).default('inside').meta({
    description: 'fill: the photo is cut at two sides where it is of another shape than its place',
  }),
  grid: z
    .strictObject({
      columns: cells,
      rows: cells,
      gap: z.number().min(0).max(MOST_GAP_MM).default(4),
    })
    .prefault({}),
  caption: captionSchema.nullable().default(null),
  mark_on: z.enum(SHEET_MARKS).default('photo'),
  margin_mark: marginMarkSchema.prefault({}),
  bleed: z.number().min(0).max(MOST_BLEED_MM).default(0).meta({
    description: 'how far what reaches the edge goes beyond it, to be cut off',
  }),
  crop_marks: z.boolean().default(false),
});

export type SheetRule = z.infer<typeof sheetSchema>;
