import { z } from 'zod';
import { liftSettingsSchema } from './lift.ts';
import { penDrawingSchema } from './pen.ts';

/** How artwork was made, as far as it can be taken up again. */
export const artworkOriginSchema = z.discriminatedUnion('kind', [
  /** From a file. */
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

export type ArtworkOrigin = z.infer<typeof artworkOriginSchema>;
