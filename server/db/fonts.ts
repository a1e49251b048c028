import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';

/** One face of a font that the photographer added. */
export interface FontRow {
  readonly id: number;
  readonly family: string;
  readonly name: string;
  readonly weight: number;
  readonly italic: boolean;
}

export function fontTable(db: Db) {
  type Stored = Omit<FontRow, 'italic'> & { italic: number };
  const all = db.prepare<[], Stored>(
    'SELECT id, family, name, weight, italic FROM fonts ORDER BY name, weight, italic',
  );
  const nextId = lastingIds(db, 'fonts');
  const insert = db.prepare(
    'INSERT OR REPLACE INTO fonts (id, family, name, weight, italic, added_at) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const remove = db.prepare('DELETE FROM fonts WHERE family = ?');

  return {
    all: (): FontRow[] => all.all().map((row) => ({ ...row, italic: row.italic === 1 })),
    nextId,
    insert({ id, family, name, weight, italic }: FontRow): void {
      insert.run(id, family, name, weight, Number(italic), new Date().toISOString());
    },
    removeFamily: (family: string): void => void remove.run(family),
  };
}
