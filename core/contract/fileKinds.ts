/** Kinds of files Light Crest reads and writes whose JSON Schemas are published. */
export const FILE_KINDS = ['preset', 'delivery'] as const;
export type FileKind = (typeof FILE_KINDS)[number];
