import type { RunView } from './runs.ts';

/** What the server tells unasked. */

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
export const CHANGED_KINDS = [
  'marks',
  'presets',
  'deliveries',
  'settings',
  'batches',
  'inboxes',
] as const;

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
