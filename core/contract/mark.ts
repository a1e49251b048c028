import { z } from 'zod';
import { liftSettingsSchema } from './lift.ts';
import { penDrawingSchema } from './pen.ts';
import { nameSchema } from './preset.ts';

/** How a mark was made, as far as it can be taken up again. */
export const markOriginSchema = z.discriminatedUnion('kind', [
  /** Artwork from a file. */
  z.strictObject({ kind: z.literal('file') }),
  /** Ink lifted from paper; the scan itself stays in the library it was lifted in. */
  z.strictObject({
    kind: z.literal('paper'),
    scanId: z.number().int().positive().nullable(),
    page: z.number().int().positive(),
    settings: liftSettingsSchema,
  }),
  z.strictObject({ kind: z.literal('pen'), drawing: penDrawingSchema }),
]);

/** What the `metadata` of a mark's SVG holds. */
export const markModelSchema = z.strictObject({
  format: z.literal('light-crest/mark'),
  version: z.literal(1),
  name: nameSchema,
  origin: markOriginSchema,
});

export type MarkOrigin = z.infer<typeof markOriginSchema>;
export type MarkModel = z.infer<typeof markModelSchema>;
