import type { EncodingRule } from '#core/contract/delivery';
import type { Canvas } from '#core/pixels';
import type { MetadataBlocks } from '../metadata/blocks.ts';

/** Finished pixels and metadata → the bytes of an output file. */
export type Writer = (
  canvas: Canvas,
  file: EncodingRule,
  blocks: MetadataBlocks,
) => Promise<WrittenFile>;

export interface WrittenFile {
  /** The bytes of the file, in order. */
  readonly parts: readonly Uint8Array[];
  /** What should be known of it, as a sentence, such as what it had no room for; or null. */
  readonly note: string | null;
}
