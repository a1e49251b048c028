import type { Db } from './open.ts';

export interface MarkSetRow {
  readonly id: number;
  readonly name: string;
  /** The lowest first; those that are gone or in the bin are left out. */
  readonly presetIds: readonly number[];
}

type Stored = Omit<MarkSetRow, 'presetIds'> & { readonly presetIds: string };

const SELECT = `
  SELECT s.id, s.name,
    (SELECT json_group_array(id) FROM
      (SELECT p.id FROM json_each(s.preset_ids) j JOIN presets p ON p.id = j.value
       WHERE p.deleted_at IS NULL ORDER BY j.key)) AS presetIds
  FROM mark_sets s`;

/** Presets that are laid over each other, under one name. */
export function markSetTable(db: Db) {
  const all = db.prepare<[], Stored>(`${SELECT} ORDER BY s.name COLLATE NOCASE, s.id`);
  const one = db.prepare<[number], Stored>(`${SELECT} WHERE s.id = ?`);
  const insert = db.prepare('INSERT INTO mark_sets (name, preset_ids) VALUES (?, ?)');
  const remove = db.prepare('DELETE FROM mark_sets WHERE id = ?');
  const toSet = (row: Stored): MarkSetRow => ({
    ...row,
    presetIds: JSON.parse(row.presetIds) as number[],
  });
  return {
    all: (): MarkSetRow[] => all.all().map(toSet),
    get(id: number): MarkSetRow | null {
      const row = one.get(id);
      return row ? toSet(row) : null;
    },
    insert: (name: string, presetIds: readonly number[]): number =>
      Number(insert.run(name, JSON.stringify(presetIds)).lastInsertRowid),
    remove: (id: number): void => void remove.run(id),
  };
}
