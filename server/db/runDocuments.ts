import type { Db } from './open.ts';
import type { OwnPaths } from './ownPaths.ts';

export type DocumentStatus = 'waiting' | 'naming' | 'written' | 'skipped' | 'failed';

/** A file that a run makes of many photos. */
export interface RunDocumentRow {
  readonly id: number;
  readonly runId: number;
  /** Position of its delivery in the run, from 1. */
  readonly delivery: number;
  /** Place among the sheets, from 1; 0: it has all. */
  readonly sheet: number;
  readonly status: DocumentStatus;
  readonly output: string | null;
  readonly outputInode: string | null;
  readonly temporary: string | null;
  readonly bytes: number;
  readonly error: string | null;
}

const COLUMNS = `id, run_id AS runId, delivery, sheet, status, output, output_inode AS outputInode,
  temporary, bytes, error`;

export function runDocumentTable(db: Db, { stored, resolved }: OwnPaths) {
  const ofRun = db.prepare<[number], RunDocumentRow>(
    `SELECT ${COLUMNS} FROM run_documents WHERE run_id = ? ORDER BY delivery, sheet`,
  );
  const insert = db.prepare(
    'INSERT INTO run_documents (run_id, delivery, sheet) VALUES (?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const naming = db.prepare(
    "UPDATE run_documents SET status = 'naming', output = ?, output_inode = ?, temporary = ?, bytes = ? WHERE id = ?",
  );
  const finish = db.prepare(
    'UPDATE run_documents SET status = ?, output = coalesce(?, output), error = ? WHERE id = ?',
  );
  const requeue = db.prepare(
    "UPDATE run_documents SET status = 'waiting', output = NULL, output_inode = NULL, bytes = 0 WHERE id = ?",
  );
  const forget = db.prepare('DELETE FROM run_documents WHERE run_id = ? AND delivery = ?');
  const toDocument = (row: RunDocumentRow): RunDocumentRow => ({
    ...row,
    output: row.output === null ? null : resolved(row.output),
    temporary: row.temporary === null ? null : resolved(row.temporary),
  });

  return {
    ofRun: (runId: number): RunDocumentRow[] => ofRun.all(runId).map(toDocument),
    /** Those that are there already stay. @param sheets places of sheets, or 0 for one with all */
    expect: db.transaction((runId: number, delivery: number, sheets: readonly number[]): void => {
      for (const sheet of sheets) insert.run(runId, delivery, sheet);
    }),
    setNaming(id: number, output: string, inode: string, temporary: string, bytes: number): void {
      naming.run(stored(output), inode, stored(temporary), bytes, id);
    },
    finish(
      id: number,
      status: 'written' | 'skipped' | 'failed',
      output: string | null,
      error: string | null,
    ): void {
      finish.run(status, output === null ? null : stored(output), error, id);
    },
    requeue: (id: number): void => void requeue.run(id),
    /** They are made anew, of photos that are made ready anew. */
    forget: (runId: number, delivery: number): void => void forget.run(runId, delivery),
  };
}
