import { z } from 'zod';
import { designSchema, partSchema } from './design.ts';
import { artworkOriginSchema } from './origin.ts';
import { nameSchema } from './preset.ts';

/** How a mark was made: as one piece of artwork, or composed of layers. */
export const markOriginSchema = z.discriminatedUnion('kind', [
  ...artworkOriginSchema.options,
  z.strictObject({ kind: z.literal('design'), design: designSchema }),
]);

/** What the `metadata` of a mark's SVG holds. */
export const markModelSchema = z.strictObject({
  format: z.literal('light-crest/mark'),
  version: z.literal(1),
  name: nameSchema,
  origin: markOriginSchema,
  /** The artwork of a design's layers, by the names the layers use. */
  parts: z.record(z.string().max(80), partSchema).default({}),
});

export type MarkOrigin = z.infer<typeof markOriginSchema>;
export type MarkModel = z.infer<typeof markModelSchema>;
