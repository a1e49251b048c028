import type { Box } from '#core/placement/geometry';
import type { Db } from './open.ts';

export interface MarkRow {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly kind: 'svg' | 'png';
  readonly natural: Box;
  readonly ink: Box;
  readonly notes: string[];
  readonly retired: boolean;
  readonly createdAt: string;
}

export type NewMark = Pick<MarkRow, 'name' | 'kind' | 'natural' | 'ink' | 'notes'>;

interface Stored {
  id: number;
  name: string;
  version: number;
  kind: 'svg' | 'png';
  natural_box: string;
  ink_box: string;
  notes: string;
  retired: number;
  created_at: string;
}

const COLUMNS = 'id, name, version, kind, natural_box, ink_box, notes, retired, created_at';

export function markTable(db: Db) {
  const all = db.prepare<[], Stored>(`SELECT ${COLUMNS} FROM marks ORDER BY retired, name, id`);
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM marks WHERE id = ?`);
  const insert = db.prepare(`
    INSERT INTO marks (name, kind, natural_box, ink_box, notes, created_at)
    VALUES (?, ?, ?, ?, ?, ?)`);
  const rename = db.prepare('UPDATE marks SET name = ? WHERE id = ?');
  const retire = db.prepare('UPDATE marks SET retired = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM marks WHERE id = ?');
  const usedByRun = db.prepare<[number], { n: number }>(
    'SELECT count(*) AS n FROM runs WHERE mark_id = ?',
  );

  return {
    all: (): MarkRow[] => all.all().map(toMark),
    get: (id: number): MarkRow | null => mapped(one.get(id)),
    insert(mark: NewMark): number {
      const { name, kind, natural, ink, notes } = mark;
      const boxes = [JSON.stringify(natural), JSON.stringify(ink)];
      const result = insert.run(name, kind, ...boxes, JSON.stringify(notes), now());
      return Number(result.lastInsertRowid);
    },
    rename: (id: number, name: string): void => void rename.run(name, id),
    retire: (id: number, retired: boolean): void => void retire.run(Number(retired), id),
    remove: (id: number): void => void remove.run(id),
    isUsedByRun: (id: number): boolean => (usedByRun.get(id)?.n ?? 0) > 0,
  };
}

function mapped(row: Stored | undefined): MarkRow | null {
  return row ? toMark(row) : null;
}

function toMark(row: Stored): MarkRow {
  return {
    id: row.id,
    name: row.name,
    version: row.version,
    kind: row.kind,
    natural: JSON.parse(row.natural_box) as Box,
    ink: JSON.parse(row.ink_box) as Box,
    notes: JSON.parse(row.notes) as string[],
    retired: row.retired === 1,
    createdAt: row.created_at,
  };
}

function now(): string {
  return new Date().toISOString();
}
