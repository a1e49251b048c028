import { z } from 'zod';
import { deliveryFileSchema } from './delivery.ts';
import type { FileKind } from './fileKinds.ts';
import { presetFileSchema } from './preset.ts';

/** The published JSON Schemas of the files Light Crest reads and writes. */

const SCHEMAS: Record<FileKind, { schema: z.ZodType; title: string }> = {
  preset: { schema: presetFileSchema, title: 'Light Crest preset' },
  delivery: { schema: deliveryFileSchema, title: 'Light Crest delivery' },
};

/** JSON Schema (2020-12) of what may be *written* into a file: keys with a default may be left out. */
export function fileJsonSchema(kind: FileKind): Record<string, unknown> {
  const { schema, title } = SCHEMAS[kind];
  return { title, ...z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) };
}
