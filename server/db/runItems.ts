import { adjustmentSchema, type Adjustment } from '#core/contract/adjustment';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import type { Placement } from '#core/placement/placeMark';
import type { Readability } from '#core/readability/measure';
import type { Size } from '#core/placement/geometry';
import type { Db } from './open.ts';

export type ItemStatus =
  'waiting' | 'working' | 'naming' | 'written' | 'skipped' | 'failed' | 'cancelled';

/** One output of a run. */
export interface RunItemRow {
  readonly id: number;
  readonly runId: number;
  /** Position in the run, from 1. */
  readonly number: number;
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
  readonly placement: Placement;
  /** Null where it was not measured. */
  readonly readability: Readability | null;
}

export interface NewItem {
  readonly number: number;
  readonly photoId: number;
  readonly sourcePath: string;
  readonly sourceName: string;
  readonly capturedAt: string | null;
  readonly width: number;
  readonly height: number;
  readonly adjustment: Adjustment;
  readonly own: OwnPreset | null;
}

export interface Measures {
  readonly result: ItemResult;
  readonly note: string | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  readonly durationMs: number;
}

interface Stored extends Omit<RunItemRow, 'result' | 'adjustment' | 'own'> {
  result: string | null;
  adjustment: string;
  presetName: string | null;
  rule: string | null;
  markId: number | null;
  markVersion: number | null;
}

const COLUMNS = `
  id, run_id AS runId, number, photo_id AS photoId, source_path AS sourcePath,
  source_name AS sourceName, captured_at AS capturedAt, width, height, status, output,
  output_inode AS outputInode, error, note, result, bytes_before AS bytesBefore,
  bytes_after AS bytesAfter, duration_ms AS durationMs, adjustment, preset_name AS presetName,
  rule, mark_id AS markId, mark_version AS markVersion`;

export function runItemTable(db: Db) {
  const byRun = db.prepare<[number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? ORDER BY number`,
  );
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM run_items WHERE id = ?`);
  const insert = db.prepare(`
    INSERT INTO run_items (run_id, number, photo_id, source_path, source_name, captured_at, width,
      height, adjustment, preset_name, rule, mark_id, mark_version)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`);
  const takeNext = db.prepare<[number], Stored>(`
    UPDATE run_items SET status = 'working' WHERE id = (
      SELECT id FROM run_items WHERE run_id = ? AND status = 'waiting' ORDER BY number LIMIT 1)
    RETURNING ${COLUMNS}`);
  const naming = db.prepare(
    "UPDATE run_items SET status = 'naming', output = ?, output_inode = ? WHERE id = ?",
  );
  const measured = db.prepare(`
    UPDATE run_items SET result = ?, note = ?, bytes_before = ?, bytes_after = ?, duration_ms = ? WHERE id = ?`);
  const finish = db.prepare('UPDATE run_items SET status = ?, output = ?, error = ? WHERE id = ?');
  const requeue = db.prepare(
    "UPDATE run_items SET status = 'waiting', output = NULL, output_inode = NULL, error = NULL WHERE id = ?",
  );
  const requeueFailed = db.prepare(
    "UPDATE run_items SET status = 'waiting', error = NULL WHERE run_id = ? AND status IN ('failed', 'cancelled')",
  );
  const cancelWaiting = db.prepare(
    "UPDATE run_items SET status = 'cancelled' WHERE run_id = ? AND status = 'waiting'",
  );
  const interrupted = db.prepare<[number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? AND status IN ('working', 'naming')`,
  );

  return {
    ofRun: (runId: number): RunItemRow[] => byRun.all(runId).map(toItem),
    get(id: number): RunItemRow | null {
      const row = one.get(id);
      return row ? toItem(row) : null;
    },
    insertAll: db.transaction((runId: number, items: readonly NewItem[]) => {
      for (const item of items) {
        insert.run(
          ...[runId, item.number, item.photoId, item.sourcePath, item.sourceName],
          ...[item.capturedAt, item.width, item.height, JSON.stringify(item.adjustment)],
          ...ownValues(item.own),
        );
      }
    }),
    /** The next waiting item, now marked as being worked on. */
    takeNext(runId: number): RunItemRow | null {
      const row = takeNext.get(runId);
      return row ? toItem(row) : null;
    },
    setMeasures(id: number, m: Measures): void {
      const { note, bytesBefore, bytesAfter, durationMs } = m;
      measured.run(JSON.stringify(m.result), note, bytesBefore, bytesAfter, durationMs, id);
    },
    setNaming: (id: number, output: string, inode: string): void =>
      void naming.run(output, inode, id),
    finish(
      id: number,
      status: 'written' | 'skipped' | 'failed',
      output: string | null,
      error: string | null,
    ): void {
      finish.run(status, output, error, id);
    },
    requeue: (id: number): void => void requeue.run(id),
    requeueFailed: (runId: number): number => requeueFailed.run(runId).changes,
    cancelWaiting: (runId: number): void => void cancelWaiting.run(runId),
    interrupted: (runId: number): RunItemRow[] => interrupted.all(runId).map(toItem),
  };
}

function toItem(row: Stored): RunItemRow {
  const { presetName, rule, markId, markVersion, result, adjustment, ...rest } = row;
  const own =
    presetName !== null && rule !== null && markId !== null && markVersion !== null
      ? { presetName, rule: presetRuleSchema.parse(JSON.parse(rule)), markId, markVersion }
      : null;
  return {
    ...rest,
    adjustment: adjustmentSchema.parse(JSON.parse(adjustment)),
    own,
    result: result ? (JSON.parse(result) as ItemResult) : null,
  };
}

function ownValues(own: OwnPreset | null): (string | number | null)[] {
  if (!own) return [null, null, null, null];
  return [own.presetName, JSON.stringify(own.rule), own.markId, own.markVersion];
}
