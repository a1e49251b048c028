import { z } from 'zod';
import { namePatternProblem } from '../delivery/namePattern.ts';
import { nameSchema } from './preset.ts';
import { sheetSchema } from './sheet.ts';
import { showSchema } from './show.ts';

/** What a delivery file says (contract, section 5): the rule for output files. */

/** A file a photo, photos on paper, or a show of them all. */
export const DELIVERY_KINDS = ['files', 'sheet', 'show'] as const;
export const RESIZE_RULES = [
  'long-side',
  'short-side',
  'width',
  'height',
  'within',
  'megapixels',
] as const;
export const FILE_TYPES = ['jpeg', 'png', 'webp', 'avif', 'tiff'] as const;
export const CHROMAS = ['4:4:4', '4:2:0'] as const;
/** What the numbers of an output mean: sRGB, or what they do in the photo. */
export const OUTPUT_COLOURS = ['srgb', 'photo'] as const;
export const EXISTING_RULES = ['number', 'replace', 'skip'] as const;
export const METADATA_KEEPS = ['all', 'copyright', 'none'] as const;
/** Letters of a name or line in the metadata, and of usage terms. */
export const RIGHTS_LINE_MAX = 200;
export const USAGE_MAX = 1_000;
/** What becomes of the position a photo was taken at. */
export const LOCATION_RULES = ['drop', 'keep'] as const;
/** How strongly a photo that became smaller is sharpened. */
export const SHARPENINGS = ['none', 'low', 'standard', 'high'] as const;
/** The resolution tag, pixels an inch: what printers take. */
export const DPI_MAX = 9_600;
/** Least that a file is asked to be at most, bytes. */
export const LEAST_MAX_BYTES = 10_000;
export const DATE_RULES = ['photo', 'now'] as const;

/** Longest side an output may have, px: the limit of JPEG. */
export const OUTPUT_SIDE_MAX_PX = 65_500;

/** Most megapixels an output may have, the same as a photo may have. */
export const OUTPUT_MAX_MEGAPIXELS = 300;

const wholePixels = z.number().int().min(1).max(OUTPUT_SIDE_MAX_PX);

export const resizeSchema = z
  .strictObject({
    rule: z.enum(RESIZE_RULES).default('long-side'),
    px: z
      .number()
      .positive()
      .max(OUTPUT_SIDE_MAX_PX)
      .default(2048)
      .meta({ description: 'pixels; with the rule megapixels, millions of pixels' }),
    px2: wholePixels
      .nullable()
      .default(null)
      .meta({ description: 'with the rule within: the height, where it differs from px' }),
    enlarge: z.boolean().default(false),
  })
  .check((context) => {
    const { rule, px, px2 } = context.value;
    if (rule !== 'within' && px2 !== null) {
      context.issues.push({
        code: 'custom',
        message: 'null, since only the rule within has two sides',
        input: px2,
        path: ['px2'],
      });
    }
    if (rule === 'megapixels') {
      if (px > OUTPUT_MAX_MEGAPIXELS) {
        context.issues.push({
          code: 'too_big',
          origin: 'number',
          maximum: OUTPUT_MAX_MEGAPIXELS,
          inclusive: true,
          input: px,
          path: ['px'],
        });
      }
    } else if (!Number.isInteger(px)) {
      context.issues.push({
        code: 'custom',
        message: 'a whole number of pixels',
        input: px,
        path: ['px'],
      });
    }
  });

/** Encoders of TIFF lose nothing; they differ in size and in who reads them. */
export const TIFF_COMPRESSIONS = ['lzw', 'deflate', 'none'] as const;
/** In place of a quality: only the blocks that the mark covers are encoded again. */
export const UNTOUCHED = 'untouched';

export const fileSchema = z
  .strictObject({
    type: z.enum(FILE_TYPES).default('jpeg'),
    quality: z
      .union([z.number().int().min(1).max(100), z.literal(UNTOUCHED)])
      .default(88)
      .meta({
        description:
          'untouched: of a JPEG that keeps its size, only the blocks that the mark covers are encoded again, with its own tables; its colours, chroma and stored orientation stay as they are',
      }),
    chroma: z.enum(CHROMAS).default('4:4:4'),
    max_bytes: z.number().int().min(LEAST_MAX_BYTES).nullable().default(null).meta({
      description:
        'jpeg and webp: instead of quality, the best quality of 30 to 95 whose file is not larger; where none is, the smallest',
    }),
    progressive: z.boolean().default(false).meta({
      description:
        'jpeg: shown whole from the first bytes on, and a little smaller; slower to write',
    }),
    compression: z.enum(TIFF_COMPRESSIONS).default('lzw').meta({ description: 'tiff' }),
  })
  .check((context) => {
    const { type, quality, max_bytes: maxBytes } = context.value;
    if (quality !== UNTOUCHED) return;
    const say = (message: string, input: unknown, key: string) =>
      context.issues.push({ code: 'custom', message, input, path: [key] });
    if (type !== 'jpeg') say(`jpeg, since the quality is "${UNTOUCHED}"`, type, 'type');
    if (maxBytes !== null) say(`null, since the quality is "${UNTOUCHED}"`, maxBytes, 'max_bytes');
  });

/** Written to EXIF, IPTC and XMP alike, whatever else is kept; null: what the photo says, where that is kept. */
const rightsText = (most: number) => z.string().trim().min(1).max(most).nullable().default(null);

export const metadataSchema = z.strictObject({
  keep: z.enum(METADATA_KEEPS).default('all'),
  location: z.enum(LOCATION_RULES).default('drop').meta({
    description: 'drop: no position is left in EXIF or XMP, whatever else is kept',
  }),
  artist: rightsText(RIGHTS_LINE_MAX),
  copyright: rightsText(RIGHTS_LINE_MAX),
  usage: rightsText(USAGE_MAX),
  rights_url: z
    .url({ protocol: /^https?$/ })
    .max(USAGE_MAX)
    .nullable()
    .default(null)
    .meta({ description: 'address of a page with the usage terms (XMP xmpRights:WebStatement)' }),
});

const patternSchema = z
  .string()
  .default('{name}-web')
  .check((context) => {
    const problem = namePatternProblem(context.value);
    if (problem) {
      context.issues.push({ code: 'custom', message: problem, input: context.value });
    }
  });

const ruleShape = z.strictObject({
  kind: z.enum(DELIVERY_KINDS).default('files'),
  sheet: sheetSchema.prefault({}).meta({
    description: 'with the kind sheet, in place of resize, colour and dpi',
  }),
  show: showSchema.prefault({}).meta({ description: 'with the kind show' }),
  mark: z.boolean().default(true).meta({ description: 'false: the photo goes out without a mark' }),
  resize: resizeSchema.nullable().prefault({}),
  file: fileSchema.prefault({}),
  colour: z.enum(OUTPUT_COLOURS).default('srgb').meta({
    description:
      "photo: the photo's own profile is kept, and the mark's colours are converted into it; CMYK and grey photos, and those without a profile, become sRGB",
  }),
  name_pattern: patternSchema,
  existing: z.enum(EXISTING_RULES).default('number'),
  metadata: metadataSchema.prefault({}),
  dates: z.enum(DATE_RULES).default('photo'),
  sharpen: z.enum(SHARPENINGS).default('none').meta({
    description: 'of photos that become smaller; the mark is not sharpened',
  }),
  dpi: z.number().int().min(1).max(DPI_MAX).nullable().default(null).meta({
    description: "resolution tag, pixels an inch; null leaves the photo's",
  }),
});

type Checked = Pick<z.infer<typeof ruleShape>, 'kind' | 'resize' | 'file'>;

const checks: z.core.CheckFn<Checked> = (context) => {
  const { kind, resize, file } = context.value;
  const say = (message: string, input: unknown, path: string[]) =>
    context.issues.push({ code: 'custom', message, input, path });
  if (file.quality === UNTOUCHED) {
    // Blocks can only stay as they are where the size does.
    const message = `null, since the quality is "${UNTOUCHED}"`;
    if (resize !== null) say(message, resize, ['resize']);
    if (kind !== 'files') {
      say(`a number, since the kind is "${kind}"`, file.quality, ['file', 'quality']);
    }
  }
  if (kind === 'show' && file.type === 'tiff') {
    say('a type that browsers show, since the kind is "show"', file.type, ['file', 'type']);
  }
  if (kind === 'sheet' && file.type !== 'jpeg') {
    say('jpeg, since the kind is "sheet"', file.type, ['file', 'type']);
  }
};

export const deliveryRuleSchema = ruleShape.check(checks);

export const deliveryFileSchema = z
  .strictObject({
    format: z.literal('light-crest/delivery'),
    version: z.literal(1),
    name: nameSchema,
    ...ruleShape.shape,
  })
  .check(checks);

export type DeliveryKind = (typeof DELIVERY_KINDS)[number];
export type FileType = (typeof FILE_TYPES)[number];
/** How an output is encoded, where it is encoded whole. */
export type EncodingRule = FileRule & { readonly quality: number };
export type ExistingRule = (typeof EXISTING_RULES)[number];
export type MetadataRule = z.infer<typeof metadataSchema>;
export type Sharpening = (typeof SHARPENINGS)[number];
export type ResizeRule = z.infer<typeof resizeSchema>;
export type FileRule = z.infer<typeof fileSchema>;
export type DeliveryRule = z.infer<typeof deliveryRuleSchema>;
export type DeliveryFile = z.infer<typeof deliveryFileSchema>;

export const DEFAULT_DELIVERY: Readonly<DeliveryRule> = Object.freeze(deliveryRuleSchema.parse({}));
