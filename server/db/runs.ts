import { deliveryRecipeSchema, type DeliveryRecipe } from '#core/contract/delivery';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import type { Db } from './open.ts';

export type RunState = 'running' | 'paused' | 'done' | 'cancelled';

export interface RunRow {
  readonly id: number;
  readonly batchId: number | null;
  readonly batchName: string;
  readonly deliveryId: number | null;
  readonly deliveryName: string;
  readonly recipe: DeliveryRecipe;
  readonly presetName: string;
  readonly rule: PresetRule;
  readonly markId: number;
  readonly markVersion: number;
  readonly folder: string;
  readonly state: RunState;
  readonly createdAt: string;
  readonly finishedAt: string | null;
}

export type NewRun = Omit<RunRow, 'id' | 'state' | 'createdAt' | 'finishedAt'>;

type Stored = Omit<RunRow, 'recipe' | 'rule'> & { recipe: string; rule: string };

/** How many items of a run are in which status, and what they weigh. */
export interface RunCounts {
  readonly total: number;
  readonly written: number;
  readonly skipped: number;
  readonly failed: number;
  readonly cancelled: number;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  /** A finished output to stand for the run. */
  readonly coverItemId: number | null;
}

const COLUMNS = `
  id, batch_id AS batchId, batch_name AS batchName, delivery_id AS deliveryId,
  delivery_name AS deliveryName, recipe, preset_name AS presetName, rule, mark_id AS markId,
  mark_version AS markVersion, folder, state, created_at AS createdAt, finished_at AS finishedAt`;

export function runTable(db: Db) {
  const all = db.prepare<[], Stored>(`SELECT ${COLUMNS} FROM runs ORDER BY id DESC LIMIT 200`);
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM runs WHERE id = ?`);
  const unfinished = db.prepare<[], Stored>(
    `SELECT ${COLUMNS} FROM runs WHERE state IN ('running', 'paused') ORDER BY id`,
  );
  const insert = db.prepare(`
    INSERT INTO runs (batch_id, batch_name, delivery_id, delivery_name, recipe, preset_name, rule,
      mark_id, mark_version, folder, state, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 'running', ?)`);
  const setState = db.prepare('UPDATE runs SET state = ?, finished_at = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM runs WHERE id = ?');
  const counts = db.prepare<[number], RunCounts>(`
    SELECT count(*) AS total,
      count(*) FILTER (WHERE status = 'written') AS written,
      count(*) FILTER (WHERE status = 'skipped') AS skipped,
      count(*) FILTER (WHERE status = 'failed') AS failed,
      count(*) FILTER (WHERE status = 'cancelled') AS cancelled,
      coalesce(sum(bytes_before) FILTER (WHERE status = 'written'), 0) AS bytesBefore,
      coalesce(sum(bytes_after) FILTER (WHERE status = 'written'), 0) AS bytesAfter,
      min(id) FILTER (WHERE status = 'written') AS coverItemId
    FROM run_items WHERE run_id = ?`);

  return {
    all: (): RunRow[] => all.all().map(toRun),
    unfinished: (): RunRow[] => unfinished.all().map(toRun),
    get(id: number): RunRow | null {
      const row = one.get(id);
      return row ? toRun(row) : null;
    },
    insert(run: NewRun): number {
      const result = insert.run(
        ...[run.batchId, run.batchName, run.deliveryId, run.deliveryName],
        ...[JSON.stringify(run.recipe), run.presetName, JSON.stringify(run.rule)],
        ...[run.markId, run.markVersion, run.folder, new Date().toISOString()],
      );
      return Number(result.lastInsertRowid);
    },
    setState(id: number, state: RunState): void {
      const ended = state === 'done' || state === 'cancelled';
      setState.run(state, ended ? new Date().toISOString() : null, id);
    },
    remove: (id: number): void => void remove.run(id),
    counts: (id: number): RunCounts => counts.get(id) as RunCounts,
  };
}

function toRun(row: Stored): RunRow {
  return {
    ...row,
    recipe: deliveryRecipeSchema.parse(JSON.parse(row.recipe)),
    rule: presetRuleSchema.parse(JSON.parse(row.rule)),
  };
}
