import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';

export interface PresetRow {
  readonly id: number;
  readonly name: string;
  readonly markId: number;
  readonly rule: PresetRule;
  readonly updatedAt: string;
  readonly favourite: boolean;
  readonly uses: number;
  readonly usedAt: string | null;
  /** Counted up with each change of what it says. */
  readonly version: number;
}

interface Stored {
  id: number;
  name: string;
  mark_id: number;
  rule: string;
  updated_at: string;
  favourite: number;
  uses: number;
  used_at: string | null;
  version: number;
}

const COLUMNS = 'id, name, mark_id, rule, updated_at, favourite, uses, used_at, version';

export function presetTable(db: Db) {
  const all = db.prepare<[], Stored>(`SELECT ${COLUMNS} FROM presets
     WHERE deleted_at IS NULL ORDER BY position, name, id`);
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM presets
     WHERE id = ? AND deleted_at IS NULL`);
  const insert = db.prepare(`
    INSERT INTO presets (id, name, mark_id, rule, created_at, updated_at, position)
    VALUES (?, ?, ?, ?, ?, ?, (SELECT coalesce(max(position), 0) + 1 FROM presets))`);
  const update = db.prepare(
    `UPDATE presets SET name = ?, mark_id = ?, rule = ?, updated_at = ?, version = version + 1
     WHERE id = ?`,
  );
  const nextId = lastingIds(db, 'presets');
  const setPosition = db.prepare('UPDATE presets SET position = ? WHERE id = ?');
  const setFavourite = db.prepare('UPDATE presets SET favourite = ? WHERE id = ?');
  const noteUse = db.prepare('UPDATE presets SET uses = uses + 1, used_at = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM presets WHERE id = ?');
  const named = db.prepare<[number], { name: string }>(
    'SELECT name FROM presets WHERE mark_id = ? AND deleted_at IS NULL ORDER BY name',
  );

  return {
    all: (): PresetRow[] => all.all().map(toPreset),
    get(id: number): PresetRow | null {
      const row = one.get(id);
      return row ? toPreset(row) : null;
    },
    insert(name: string, markId: number, rule: PresetRule): number {
      const at = new Date().toISOString();
      const id = nextId();
      insert.run(id, name, markId, JSON.stringify(rule), at, at);
      return id;
    },
    update(id: number, name: string, markId: number, rule: PresetRule): void {
      update.run(name, markId, JSON.stringify(rule), new Date().toISOString(), id);
    },
    /** Those that are not named keep their place behind the others. */
    order: db.transaction((ids: readonly number[]) => {
      const rest = all
        .all()
        .map(({ id }) => id)
        .filter((id) => !ids.includes(id));
      [...ids, ...rest].forEach((id, position) => setPosition.run(position, id));
    }),
    favour: (id: number, favourite: boolean): void => void setFavourite.run(Number(favourite), id),
    noteUse: (id: number): void => void noteUse.run(new Date().toISOString(), id),
    remove: (id: number): void => void remove.run(id),
    namesUsingMark: (markId: number): string[] => named.all(markId).map((row) => row.name),
  };
}

function toPreset(row: Stored): PresetRow {
  return {
    id: row.id,
    name: row.name,
    markId: row.mark_id,
    // Parsed by the schema, so that a field added later has its default in old rows.
    rule: presetRuleSchema.parse(JSON.parse(row.rule)),
    updatedAt: row.updated_at,
    favourite: row.favourite === 1,
    uses: row.uses,
    usedAt: row.used_at,
    version: row.version,
  };
}
