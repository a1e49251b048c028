import type { Portions } from '../db/portions.ts';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { Tables } from '../db/tables.ts';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import type { Freshness } from '../imports/freshness.ts';
import type { Marks } from '../marks.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

/** What the export of a photo is given, and how it ends. */

export interface ExportParts {
  readonly tables: Tables;
  /** What outputs have to note, committed together where many end at once. */
  readonly portions: Portions;
  readonly marks: Marks;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  /** Whoever renders: processes of this machine, or others. */
  readonly imaging: RenderPool;
  readonly freshness: Freshness;
}

/** How an item of a run ended. */
export type ItemEnd =
  | {
      readonly kind: 'ended';
      readonly status: 'written' | 'skipped' | 'failed';
      readonly output: string | null;
      readonly error: string | null;
      readonly note?: string | null;
    }
  /** The folder does not answer: nothing is said of the photo, the run has to wait. */
  | { readonly kind: 'held'; readonly problem: string };

/** An output that is to be made, and the file that it is made in. */
export interface ItemInWork {
  readonly item: RunItemRow;
  readonly temporary: string;
}

export function failed(error: string): ItemEnd {
  return { kind: 'ended', status: 'failed', output: null, error };
}

export function ended(status: 'written' | 'skipped', output: string | null): ItemEnd {
  return { kind: 'ended', status, output, error: null };
}
