import type { OwnPaths } from './ownPaths.ts';
import type { Db } from './open.ts';

export type ImportState = 'reading' | 'paused' | 'done' | 'cancelled';

/** A folder that is being read, or was read, into a batch. */
export interface ImportRow {
  readonly id: number;
  readonly batchId: number;
  readonly folder: string;
  readonly state: ImportState;
  readonly problem: string | null;
}

export interface ImportItemRow {
  readonly id: number;
  readonly importId: number;
  /** Path below the folder. */
  readonly name: string;
}

export interface ImportCounts {
  readonly total: number;
  readonly waiting: number;
  readonly added: number;
  readonly already: number;
  readonly refused: number;
}

export type ItemEnd = 'added' | 'already' | 'refused';

const COLUMNS = 'id, batch_id AS batchId, folder, state, problem';

export function importTable(db: Db, { stored, resolved }: OwnPaths) {
  const one = db.prepare<[number], ImportRow>(`SELECT ${COLUMNS} FROM imports WHERE id = ?`);
  const unfinished = db.prepare<[], ImportRow>(
    `SELECT ${COLUMNS} FROM imports WHERE state IN ('reading', 'paused') ORDER BY id`,
  );
  const newest = db.prepare<[number], ImportRow>(
    `SELECT ${COLUMNS} FROM imports WHERE batch_id = ? ORDER BY id DESC LIMIT 1`,
  );
  const insert = db.prepare('INSERT INTO imports (batch_id, folder, created_at) VALUES (?, ?, ?)');
  const lastFolders = db.prepare<[number], { folder: string }>(
    'SELECT folder FROM imports GROUP BY folder ORDER BY max(id) DESC LIMIT ?',
  );
  const insertItem = db.prepare('INSERT INTO import_items (import_id, name) VALUES (?, ?)');
  const setState = db.prepare(
    'UPDATE imports SET state = ?, problem = ?, finished_at = ? WHERE id = ?',
  );
  const waiting = db.prepare<[number, number], ImportItemRow>(`
    SELECT id, import_id AS importId, name FROM import_items
    WHERE import_id = ? AND status = 'waiting' AND id > ? ORDER BY id LIMIT 1`);
  const finish = db.prepare('UPDATE import_items SET status = ?, reason = ? WHERE id = ?');
  const counts = db.prepare<[number], ImportCounts>(`
    SELECT count(*) AS total,
      count(*) FILTER (WHERE status = 'waiting') AS waiting,
      count(*) FILTER (WHERE status = 'added') AS added,
      count(*) FILTER (WHERE status = 'already') AS already,
      count(*) FILTER (WHERE status = 'refused') AS refused
    FROM import_items WHERE import_id = ?`);
  const refused = db.prepare<[number, number], { name: string; reason: string }>(`
    SELECT name, reason FROM import_items WHERE import_id = ? AND status = 'refused'
    ORDER BY id LIMIT ?`);
  const cancelWaiting = db.prepare(
    "UPDATE import_items SET status = 'cancelled' WHERE import_id = ? AND status = 'waiting'",
  );
  const requeue = db.prepare(
    "UPDATE import_items SET status = 'waiting', reason = NULL WHERE import_id = ? AND status IN ('refused', 'cancelled')",
  );

  const toImport = (row: ImportRow): ImportRow => ({ ...row, folder: resolved(row.folder) });

  return {
    /** Folders that were read last, newest first. */
    lastFolders: (most: number): string[] =>
      lastFolders.all(most).map(({ folder }) => resolved(folder)),
    get(id: number): ImportRow | null {
      const row = one.get(id);
      return row ? toImport(row) : null;
    },
    unfinished: (): ImportRow[] => unfinished.all().map(toImport),
    /** The last one of a batch, finished or not. */
    newestOf(batchId: number): ImportRow | null {
      const row = newest.get(batchId);
      return row ? toImport(row) : null;
    },
    insert: db.transaction((batchId: number, folder: string, names: readonly string[]): number => {
      const at = new Date().toISOString();
      const id = Number(insert.run(batchId, stored(folder), at).lastInsertRowid);
      for (const name of names) insertItem.run(id, name);
      return id;
    }),
    setState(id: number, state: ImportState, problem: string | null = null): void {
      const hasEnded = state === 'done' || state === 'cancelled';
      setState.run(state, problem, hasEnded ? new Date().toISOString() : null, id);
    },
    /** The next one that waits, behind an item that is worked on already. */
    nextWaiting: (id: number, afterItem: number): ImportItemRow | null =>
      waiting.get(id, afterItem) ?? null,
    finish: (itemId: number, status: ItemEnd, reason: string | null): void =>
      void finish.run(status, reason, itemId),
    counts: (id: number): ImportCounts => counts.get(id) as ImportCounts,
    refused: (id: number, most: number): { name: string; reason: string }[] =>
      refused.all(id, most),
    cancelWaiting: (id: number): void => void cancelWaiting.run(id),
    /** @returns how many are to be read once more */
    requeue: (id: number): number => requeue.run(id).changes,
  };
}
