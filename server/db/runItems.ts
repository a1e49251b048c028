import { adjustmentSchema, type Adjustment } from '#core/contract/adjustment';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import type { Size } from '#core/placement/geometry';
import type { Db } from './open.ts';
import { parseOnce } from './parseOnce.ts';
import { BATCH_ORDER } from './photos.ts';
import type { OwnPaths } from './ownPaths.ts';
import type { ItemResult, Measures, NewItem, OwnPreset, RunItemRow } from './runItemRows.ts';

interface Stored extends Omit<RunItemRow, 'result' | 'adjustment' | 'own' | 'over'> {
  isAlone: number;
  ownOver: string;
  result: string | null;
  adjustment: string;
  presetName: string | null;
  rule: string | null;
  markId: number | null;
  markVersion: number | null;
}

const COLUMNS = `
  id, run_id AS runId, number, delivery, photo_id AS photoId, source_path AS sourcePath,
  source_name AS sourceName, captured_at AS capturedAt, width, height, status, output,
  output_inode AS outputInode, temporary, error, note, result, bytes_before AS bytesBefore,
  bytes_after AS bytesAfter, duration_ms AS durationMs, adjustment, preset_name AS presetName,
  rule, mark_id AS markId, mark_version AS markVersion, is_alone AS isAlone,
  own_over AS ownOver`;

/** Has it told again by `changedSince`. */
const CHANGED = `changed = (
  SELECT coalesce(max(changed), 0) + 1 FROM run_items AS any WHERE any.run_id = run_items.run_id)`;
/** Of many at once, which have one number. */
const CHANGED_TOGETHER = `changed = (
  SELECT coalesce(max(changed), 0) + 1 FROM run_items WHERE run_id = @runId)`;

const ENDED = "('written', 'skipped', 'failed', 'cancelled')";

export function runItemTable(db: Db, { stored, resolved }: OwnPaths) {
  const byRun = db.prepare<[number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? ORDER BY number, delivery`,
  );
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM run_items WHERE id = ?`);
  const insert = db.prepare(`
    INSERT INTO run_items (run_id, number, delivery, photo_id, source_path, source_name, captured_at, width,
      height, adjustment, preset_name, rule, mark_id, mark_version, is_alone, own_over)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`);
  const waiting = db.prepare<[{ runId: number; most: number }], Stored>(`
    SELECT ${COLUMNS} FROM run_items WHERE run_id = @runId AND status = 'waiting' AND number IN
      (SELECT DISTINCT number FROM run_items
       WHERE run_id = @runId AND status = 'waiting' ORDER BY number LIMIT @most)
    ORDER BY number, delivery`);
  const ended = db.prepare<[number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? AND status IN ${ENDED} ORDER BY number, delivery`,
  );
  const changedSince = db.prepare<[number, number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? AND changed > ? ORDER BY number, delivery`,
  );
  const withOwn = db.prepare<[number], { delivery: number }>(
    'SELECT DISTINCT delivery FROM run_items WHERE run_id = ? AND is_alone = 1',
  );
  const lastChange = db.prepare<[number], { changed: number }>(
    'SELECT coalesce(max(changed), 0) AS changed FROM run_items WHERE run_id = ?',
  );
  const outputs = db.prepare<[number], { id: number; output: string }>(
    "SELECT id, output FROM run_items WHERE run_id = ? AND status = 'written' AND output IS NOT NULL",
  );
  const takeUp = db.prepare(
    "UPDATE run_items SET status = 'working' WHERE id = ? AND status = 'waiting'",
  );
  const naming = db.prepare(
    "UPDATE run_items SET status = 'naming', output = ?, output_inode = ?, temporary = ? WHERE id = ?",
  );
  const measured = db.prepare(`
    UPDATE run_items SET result = ?, note = ?, bytes_before = ?, bytes_after = ?, duration_ms = ? WHERE id = ?`);
  const finish = db.prepare(`
    UPDATE run_items SET status = ?, output = ?, error = ?, note = coalesce(?, note), ${CHANGED}
    WHERE id = ?`);
  const requeue = db.prepare(`
    UPDATE run_items SET status = 'waiting', output = NULL, output_inode = NULL, error = NULL, ${CHANGED}
    WHERE id = ?`);
  const requeueFailed = db.prepare<[{ runId: number }]>(`
    UPDATE run_items SET status = 'waiting', error = NULL, ${CHANGED_TOGETHER}
    WHERE run_id = @runId AND status IN ('failed', 'cancelled')`);
  const cancelWaiting = db.prepare<[{ runId: number }]>(`
    UPDATE run_items SET status = 'cancelled', ${CHANGED_TOGETHER}
    WHERE run_id = @runId AND status = 'waiting'`);
  const interrupted = db.prepare<[number], Stored>(
    `SELECT ${COLUMNS} FROM run_items WHERE run_id = ? AND status IN ('working', 'naming')`,
  );
  const interruptedRuns = db.prepare<[], { runId: number }>(
    "SELECT DISTINCT run_id AS runId FROM run_items WHERE status IN ('working', 'naming')",
  );
  const requeueDelivery = db.prepare<[{ runId: number; delivery: number }]>(`
    UPDATE run_items SET status = 'waiting', output = NULL, error = NULL, ${CHANGED_TOGETHER}
    WHERE run_id = @runId AND delivery = @delivery AND status = 'written'`);
  const cancelDelivery = db.prepare<[{ runId: number; delivery: number }]>(`
    UPDATE run_items SET status = 'cancelled', ${CHANGED_TOGETHER}
    WHERE run_id = @runId AND delivery = @delivery AND status = 'written'`);
  const sizeOfNumber = db.prepare<[number, number], Size>(
    'SELECT width, height FROM run_items WHERE run_id = ? AND number = ? LIMIT 1',
  );
  const allSources = db.prepare<[], { path: string }>(
    'SELECT DISTINCT source_path AS path FROM run_items',
  );
  const photosWithout = db.prepare<[{ runId: number; batchId: number }], { id: number }>(`
    SELECT id FROM photos WHERE batch_id = @batchId AND id NOT IN
      (SELECT photo_id FROM run_items WHERE run_id = @runId AND photo_id IS NOT NULL)
    ${BATCH_ORDER}`);
  const photosAwaited = db.prepare<[number], { photoId: number }>(`
    SELECT DISTINCT photo_id AS photoId FROM run_items JOIN runs ON runs.id = run_id
    WHERE runs.batch_id = ? AND photo_id IS NOT NULL AND status IN ('waiting', 'working', 'naming')`);
  const withNumber = db.prepare<[number, number], { n: number }>(
    'SELECT count(*) AS n FROM run_items WHERE run_id = ? AND number = ?',
  );
  const parsed = { adjustment: parseOnce(adjustmentSchema), rule: parseOnce(presetRuleSchema) };
  const toItem = (row: Stored): RunItemRow => {
    const item = itemOf(row, parsed);
    const output = item.output === null ? null : resolved(item.output);
    const temporary = item.temporary === null ? null : resolved(item.temporary);
    return { ...item, output, temporary, sourcePath: resolved(item.sourcePath) };
  };
  const orNull = (row: Stored | undefined): RunItemRow | null => (row ? toItem(row) : null);

  return {
    ofRun: (runId: number): RunItemRow[] => byRun.all(runId).map(toItem),
    get: (id: number): RunItemRow | null => orNull(one.get(id)),
    hasNumber: (runId: number, number: number): boolean =>
      (withNumber.get(runId, number)?.n ?? 0) > 0,
    insertAll: db.transaction((runId: number, items: readonly NewItem[]) => {
      for (const item of items) {
        insert.run(
          ...[runId, item.number, item.delivery, item.photoId, stored(item.sourcePath)],
          ...[
            item.sourceName,
            item.capturedAt,
            item.width,
            item.height,
            JSON.stringify(item.adjustment),
          ],
          ...ownValues(item.own),
          ...[Number(item.over !== null), JSON.stringify(item.over ?? [])],
        );
      }
    }),
    /** What is waiting of the first photos of which anything is, in their order. */
    waiting: (runId: number, mostPhotos: number): RunItemRow[] =>
      waiting.all({ runId, most: mostPhotos }).map(toItem),
    /** What has ended. */
    ended: (runId: number): RunItemRow[] => ended.all(runId).map(toItem),
    /** What has ended or begins anew since a change. @param change as `lastChange` gave it */
    changedSince: (runId: number, change: number): RunItemRow[] =>
      changedSince.all(runId, change).map(toItem),
    /** Number of the last change in a run, from 1; 0: none so far. */
    lastChange: (runId: number): number => lastChange.get(runId)?.changed ?? 0,
    /** Places of deliveries in a run, from 1, that laid presets of their own. */
    deliveriesWithOwn: (runId: number): ReadonlySet<number> =>
      new Set(withOwn.all(runId).map(({ delivery }) => delivery)),
    /** The files that a run has written. */
    outputs: (runId: number): { readonly id: number; readonly output: string }[] =>
      outputs.all(runId).map(({ id, output }) => ({ id, output: resolved(output) })),
    /** Marks an item as being worked on. */
    takeUp: (id: number): void => void takeUp.run(id),
    setMeasures(id: number, m: Measures): void {
      const { note, bytesBefore, bytesAfter, durationMs } = m;
      measured.run(JSON.stringify(m.result), note, bytesBefore, bytesAfter, durationMs, id);
    },
    setNaming: (id: number, output: string, inode: string, temporary: string): void =>
      void naming.run(stored(output), inode, stored(temporary), id),
    finish(
      id: number,
      status: 'written' | 'skipped' | 'failed' | 'cancelled',
      output: string | null,
      error: string | null,
      note: string | null = null,
    ): void {
      finish.run(status, output === null ? null : stored(output), error, note, id);
    },
    requeue: (id: number): void => void requeue.run(id),
    requeueFailed: (runId: number): number => requeueFailed.run({ runId }).changes,
    /** Photos that were made ready for a document, which is to be made anew. */
    requeueDelivery: (runId: number, delivery: number): void =>
      void requeueDelivery.run({ runId, delivery }),
    /** Photos that were made ready for a document which is not made. */
    cancelDelivery: (runId: number, delivery: number): void =>
      void cancelDelivery.run({ runId, delivery }),
    /** Upright. @param number of a photo in its run, from 1 */
    sizeOfNumber: (runId: number, number: number): Size | null =>
      sizeOfNumber.get(runId, number) ?? null,
    cancelWaiting: (runId: number): void => void cancelWaiting.run({ runId }),
    /** Those that a server was at when it ended. */
    interrupted: (runId: number): RunItemRow[] => interrupted.all(runId).map(toItem),
    /** Of all runs that are listed. */
    allSources: (): string[] => allSources.all().map(({ path }) => resolved(path)),
    /** Photos of a batch that a run does not have, in the order of the batch. */
    photosWithout: (runId: number, batchId: number): number[] =>
      photosWithout.all({ runId, batchId }).map(({ id }) => id),
    interruptedRuns: (): number[] => interruptedRuns.all().map(({ runId }) => runId),
    /** Photos of a batch that runs have not come to yet. */
    photosAwaited: (batchId: number): Set<number> =>
      new Set(photosAwaited.all(batchId).map(({ photoId }) => photoId)),
  };
}

interface Parsed {
  readonly adjustment: (text: string) => Adjustment;
  readonly rule: (text: string) => PresetRule;
}

function itemOf(row: Stored, parsed: Parsed): RunItemRow {
  const { presetName, rule, markId, markVersion, result, adjustment, isAlone, ownOver, ...rest } =
    row;
  const own =
    presetName !== null && rule !== null && markId !== null && markVersion !== null
      ? { presetName, rule: parsed.rule(rule), markId, markVersion }
      : null;
  return {
    ...rest,
    adjustment: parsed.adjustment(adjustment),
    own,
    over: isAlone === 1 ? (JSON.parse(ownOver) as OwnPreset[]).map(parsedOwn) : null,
    result: result ? (JSON.parse(result) as ItemResult) : null,
  };
}

/** Parsed by the schema, so that a field added later has its default in old ones. */
function parsedOwn({ rule, ...own }: OwnPreset): OwnPreset {
  return { ...own, rule: presetRuleSchema.parse(rule) };
}

function ownValues(own: OwnPreset | null): (string | number | null)[] {
  if (!own) return [null, null, null, null];
  return [own.presetName, JSON.stringify(own.rule), own.markId, own.markVersion];
}
