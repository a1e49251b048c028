import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import { parseOnce } from './parseOnce.ts';
import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';
import type { OwnPaths } from './ownPaths.ts';
import type { OwnPreset } from './runItemRows.ts';

export type RunState = 'running' | 'paused' | 'done' | 'cancelled';

export interface RunRow {
  readonly id: number;
  readonly batchId: number | null;
  readonly batchName: string;
  /** In the order of their numbers. */
  readonly deliveries: readonly RunDelivery[];
  readonly presetId: number | null;
  readonly presetName: string;
  readonly rule: PresetRule;
  readonly markId: number;
  readonly markVersion: number;
  /** Marks over that, the lowest first. */
  readonly over: readonly RunMark[];
  readonly state: RunState;
  /** What is in its way, where it was paused by itself. */
  readonly problem: string | null;
  /** Of runs under way, the one of the lowest is worked off first. */
  readonly turn: number;
  readonly createdAt: string;
  readonly finishedAt: string | null;
}

/** A mark of a run over the first, as the run began with it. */
export interface RunMark extends OwnPreset {
  readonly presetId: number;
}

/** A delivery as a run began with it. */
export interface RunDelivery {
  readonly deliveryId: number | null;
  readonly name: string;
  readonly rule: DeliveryRule;
  readonly folder: string;
  /** The folder is made where it is missing; the one it lies in must be there. */
  readonly makesFolder: boolean;
  /** Whether what it made is downloaded as one ZIP at the end. */
  readonly zip: boolean;
}

export type NewRun = Omit<RunRow, 'id' | 'state' | 'problem' | 'turn' | 'createdAt' | 'finishedAt'>;

type Stored = Omit<RunRow, 'deliveries' | 'rule' | 'over'> & { rule: string; over: string };
type StoredDelivery = Omit<RunDelivery, 'rule' | 'makesFolder' | 'zip'> & {
  zip: number;
  rule: string;
  makesFolder: number;
};

/** How many items of a run are in which status, and what they weigh. */
export interface RunCounts {
  readonly total: number;
  readonly written: number;
  readonly skipped: number;
  readonly failed: number;
  readonly cancelled: number;
  /** Of the photos, each once, whatever was made of them. */
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  /** A finished output to stand for the run. */
  readonly coverItemId: number | null;
}

/** Older runs are still there under their address. */
const LISTED_RUNS = 200;

const COLUMNS = `
  id, batch_id AS batchId, batch_name AS batchName, preset_id AS presetId, preset_name AS presetName,
  rule, mark_id AS markId, mark_version AS markVersion, over, state, problem, turn, created_at AS createdAt,
  finished_at AS finishedAt`;

export function runTable(db: Db, { stored, resolved }: OwnPaths) {
  const all = db.prepare<[], Stored>(
    `SELECT ${COLUMNS} FROM runs ORDER BY id DESC LIMIT ${LISTED_RUNS}`,
  );
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM runs WHERE id = ?`);
  const state = db.prepare<[number], Pick<Stored, 'state'>>('SELECT state FROM runs WHERE id = ?');
  const unfinished = db.prepare<[], Stored>(
    `SELECT ${COLUMNS} FROM runs WHERE state IN ('running', 'paused') ORDER BY turn, id`,
  );
  const insert = db.prepare(`
    INSERT INTO runs (id, batch_id, batch_name, preset_id, preset_name, rule, mark_id, mark_version,
      over, turn, state, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 'running', ?)`);
  const deliveriesOf = db.prepare<[number], StoredDelivery>(`
    SELECT delivery_id AS deliveryId, name, rule, folder, makes_folder AS makesFolder, zip
    FROM run_deliveries
    WHERE run_id = ? ORDER BY number`);
  const insertDelivery = db.prepare(`
    INSERT INTO run_deliveries (run_id, number, delivery_id, name, rule, folder, makes_folder, zip)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?)`);
  const nextId = lastingIds(db, 'runs');
  const setState = db.prepare(
    'UPDATE runs SET state = ?, problem = ?, finished_at = ? WHERE id = ?',
  );
  const setTurn = db.prepare('UPDATE runs SET turn = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM runs WHERE id = ?');
  const counts = db.prepare<[{ id: number }], RunCounts>(`
    SELECT count(*) AS total,
      count(*) FILTER (WHERE status = 'written') AS written,
      count(*) FILTER (WHERE status = 'skipped') AS skipped,
      count(*) FILTER (WHERE status = 'failed') AS failed,
      count(*) FILTER (WHERE status = 'cancelled') AS cancelled,
      (SELECT coalesce(sum(bytes), 0) FROM
        (SELECT max(bytes_before) AS bytes FROM run_items
         WHERE run_id = @id AND status = 'written' GROUP BY number)) AS bytesBefore,
      coalesce(sum(bytes_after) FILTER (WHERE status = 'written'), 0) +
        (SELECT coalesce(sum(bytes), 0) FROM run_documents
         WHERE run_id = @id AND status = 'written') AS bytesAfter,
      min(id) FILTER (WHERE status = 'written' AND output IS NOT NULL) AS coverItemId
    FROM run_items WHERE run_id = @id`);

  const usersOf = (condition: string) =>
    db.prepare<[number], { name: string }>(`
      SELECT batch_name AS name FROM runs
      WHERE ${condition} AND state IN ('running', 'paused') ORDER BY id`);
  const users = {
    batch: usersOf('batch_id = ?'),
    delivery: usersOf('id IN (SELECT run_id FROM run_deliveries WHERE delivery_id = ?)'),
    preset: usersOf(
      `? IN (SELECT preset_id UNION SELECT json_extract(value, '$.presetId') FROM json_each(over))`,
    ),
  };
  const deliveryRuleOf = parseOnce(deliveryRuleSchema);
  const presetRuleOf = parseOnce(presetRuleSchema);
  const toDelivery = (row: StoredDelivery): RunDelivery => ({
    ...row,
    folder: resolved(row.folder),
    makesFolder: row.makesFolder === 1,
    zip: row.zip === 1,
    rule: deliveryRuleOf(row.rule),
  });
  const toRun = (row: Stored): RunRow => ({
    ...row,
    deliveries: deliveriesOf.all(row.id).map(toDelivery),
    rule: presetRuleOf(row.rule),
    over: (JSON.parse(row.over) as RunMark[]).map((mark) => ({
      ...mark,
      rule: presetRuleSchema.parse(mark.rule),
    })),
  });

  return {
    all: (): RunRow[] => all.all().map(toRun),
    unfinished: (): RunRow[] => unfinished.all().map(toRun),
    get(id: number): RunRow | null {
      const row = one.get(id);
      return row ? toRun(row) : null;
    },
    stateOf: (id: number): RunState | null => state.get(id)?.state ?? null,
    insert: db.transaction((run: NewRun): number => {
      const id = nextId();
      insert.run(
        ...[id, run.batchId, run.batchName, run.presetId, run.presetName],
        ...[JSON.stringify(run.rule), run.markId, run.markVersion, JSON.stringify(run.over)],
        ...[id, new Date().toISOString()],
      );
      for (const [index, delivery] of run.deliveries.entries()) {
        const { deliveryId, name, rule, folder, makesFolder, zip } = delivery;
        insertDelivery.run(
          ...[id, index + 1, deliveryId, name, JSON.stringify(rule), stored(folder)],
          ...[Number(makesFolder), Number(zip)],
        );
      }
      return id;
    }),
    /** @param problem what is in its way, where it is paused by itself */
    setState(id: number, state: RunState, problem: string | null = null): void {
      const ended = state === 'done' || state === 'cancelled';
      setState.run(state, problem, ended ? new Date().toISOString() : null, id);
    },
    /** They take each other's turns, so that all others keep theirs. @param ids in their new order */
    order: db.transaction((ids: readonly number[]): void => {
      const moved = ids.flatMap((id) => one.get(id) ?? []);
      const turns = moved.map(({ turn }) => turn).sort((a, b) => a - b);
      moved.forEach(({ id }, index) => setTurn.run(turns[index], id));
    }),
    remove: (id: number): void => void remove.run(id),
    /** Batches that runs under way export with this one. */
    underWayWith: (what: keyof typeof users, id: number): string[] =>
      users[what].all(id).map(({ name }) => name),
    counts: (id: number): RunCounts => counts.get({ id }) as RunCounts,
  };
}
