import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';

export interface ScanRow {
  readonly id: number;
  readonly name: string;
  readonly ending: string;
  readonly format: string;
  readonly pages: number;
  /** Upright, px; null for a PDF, and for scans of before. */
  readonly width: number | null;
  readonly height: number | null;
  readonly createdAt: string;
}

export type NewScan = Pick<ScanRow, 'name' | 'ending' | 'format' | 'pages' | 'width' | 'height'>;

const COLUMNS = 'id, name, ending, format, pages, width, height, created_at AS createdAt';

export function scanTable(db: Db) {
  const one = db.prepare<[number], ScanRow>(`SELECT ${COLUMNS} FROM scans WHERE id = ?`);
  const before = db.prepare<[string], ScanRow>(`SELECT ${COLUMNS} FROM scans WHERE created_at < ?`);
  const insert = db.prepare(
    `INSERT INTO scans (id, name, ending, format, pages, width, height, created_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const nextId = lastingIds(db, 'scans');
  const remove = db.prepare('DELETE FROM scans WHERE id = ?');

  return {
    get: (id: number): ScanRow | null => one.get(id) ?? null,
    olderThan: (date: Date): ScanRow[] => before.all(date.toISOString()),
    insert({ name, ending, format, pages, width, height }: NewScan): number {
      const id = nextId();
      const about = [name, ending, format, pages, width, height];
      insert.run(id, ...about, new Date().toISOString());
      return id;
    },
    remove: (id: number): void => void remove.run(id),
  };
}
