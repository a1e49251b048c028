import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import type { PhotoWords } from '#core/lettering/words';
import type { Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import type { Readability } from '#core/readability/measure';
import type { ReadBack } from '#core/verify/readBack';
import type { DrawnMark } from '../imaging/pass/renderJob.ts';

export type ItemStatus =
  'waiting' | 'working' | 'naming' | 'written' | 'skipped' | 'failed' | 'cancelled';

/** One output of a run. */
export interface RunItemRow {
  readonly id: number;
  readonly runId: number;
  /** Position of its photo in the run, from 1. */
  readonly number: number;
  /** Position of its delivery in the run, from 1. */
  readonly delivery: number;
  /** Null: it is read where it lies, and no photo of a batch. */
  readonly photoId: number | null;
  readonly sourcePath: string;
  readonly sourceName: string;
  readonly capturedAt: string | null;
  /** Upright size of the source, px. */
  readonly width: number;
  readonly height: number;
  readonly status: ItemStatus;
  readonly output: string | null;
  readonly outputInode: string | null;
  /** The file that is about to get the name `output`. */
  readonly temporary: string | null;
  readonly error: string | null;
  /** What should be known of an output that was written. */
  readonly note: string | null;
  readonly result: ItemResult | null;
  readonly bytesBefore: number | null;
  readonly bytesAfter: number | null;
  readonly durationMs: number | null;
  readonly adjustment: Adjustment;
  /** Where the photo has another preset than its run. */
  readonly own: OwnPreset | null;
  /** Marks over the first, the lowest first, in place of those that the run lays there; null: those. */
  readonly over: readonly OwnPreset[] | null;
}

/** A preset of a photo's own. */
export interface OwnPreset {
  readonly presetName: string;
  readonly rule: PresetRule;
  readonly markId: number;
  readonly markVersion: number;
}

export interface ItemResult {
  readonly frame: Size;
  /** Null: the output has no mark. */
  readonly placement: Placement | null;
  /** Null where it was not measured. */
  readonly readability: Readability | null;
  /** Marks over the first; missing in runs of before. */
  readonly others?: readonly DrawnMark[];
  /** Null where it was not opened again; missing in runs of before. */
  readonly readBack?: ReadBack | null;
  /** What marks say that are still to be drawn. */
  readonly words?: PhotoWords | undefined;
  /** The worker that made it; missing: the server's own machine. */
  readonly madeBy?: string | undefined;
}

/** An output as it is when a run begins. */
export type NewItem = Pick<
  RunItemRow,
  | 'number'
  | 'delivery'
  | 'photoId'
  | 'sourcePath'
  | 'sourceName'
  | 'capturedAt'
  | 'width'
  | 'height'
  | 'adjustment'
  | 'own'
  | 'over'
>;

export interface Measures {
  readonly result: ItemResult;
  readonly note: string | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  readonly durationMs: number;
}
