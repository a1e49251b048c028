import type { Db } from './open.ts';

export type VersionedKind = 'preset' | 'delivery';

/** What a preset or a delivery said before. */
export interface EarlierRow {
  readonly version: number;
  readonly madeAt: string;
  /** Its fields, as JSON. */
  readonly value: string;
}

/** How many of each are kept. */
export const EARLIER_KEPT = 20;

/** What is saved as one goes changes many times a minute; what stood for less is not kept, s. */
export const STOOD_SECONDS = 10;

export function earlierVersionTable(db: Db) {
  const insert = db.prepare(`
    INSERT OR REPLACE INTO earlier_versions (kind, subject_id, version, value, made_at)
    VALUES (?, ?, ?, ?, ?)`);
  const trim = db.prepare(`
    DELETE FROM earlier_versions WHERE kind = @kind AND subject_id = @id AND version NOT IN (
      SELECT version FROM earlier_versions WHERE kind = @kind AND subject_id = @id
      ORDER BY version DESC LIMIT ${EARLIER_KEPT})`);
  const list = db.prepare<[string, number], EarlierRow>(`
    SELECT version, made_at AS madeAt, value FROM earlier_versions
    WHERE kind = ? AND subject_id = ? ORDER BY version DESC`);
  const forget = db.prepare('DELETE FROM earlier_versions WHERE kind = ? AND subject_id = ?');

  return {
    /** Keeps what is about to be replaced, unless it stood for a moment only. */
    keep(kind: VersionedKind, id: number, row: EarlierRow, now = Date.now()): void {
      const stoodMs = now - Date.parse(row.madeAt);
      if (row.version > 1 && stoodMs < STOOD_SECONDS * 1_000) return;
      insert.run(kind, id, row.version, row.value, row.madeAt);
      trim.run({ kind, id });
    },
    /** Newest first. */
    of: (kind: VersionedKind, id: number): EarlierRow[] => list.all(kind, id),
    forget: (kind: VersionedKind, id: number): void => void forget.run(kind, id),
  };
}
