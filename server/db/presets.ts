import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import type { Db } from './open.ts';

export interface PresetRow {
  readonly id: number;
  readonly name: string;
  readonly markId: number;
  readonly rule: PresetRule;
  readonly updatedAt: string;
}

interface Stored {
  id: number;
  name: string;
  mark_id: number;
  rule: string;
  updated_at: string;
}

const COLUMNS = 'id, name, mark_id, rule, updated_at';

export function presetTable(db: Db) {
  const all = db.prepare<[], Stored>(`SELECT ${COLUMNS} FROM presets ORDER BY name, id`);
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM presets WHERE id = ?`);
  const insert = db.prepare(`
    INSERT INTO presets (name, mark_id, rule, created_at, updated_at) VALUES (?, ?, ?, ?, ?)`);
  const update = db.prepare(
    'UPDATE presets SET name = ?, mark_id = ?, rule = ?, updated_at = ? WHERE id = ?',
  );
  const remove = db.prepare('DELETE FROM presets WHERE id = ?');
  const named = db.prepare<[number], { name: string }>(
    'SELECT name FROM presets WHERE mark_id = ? ORDER BY name',
  );

  return {
    all: (): PresetRow[] => all.all().map(toPreset),
    get(id: number): PresetRow | null {
      const row = one.get(id);
      return row ? toPreset(row) : null;
    },
    insert(name: string, markId: number, rule: PresetRule): number {
      const at = new Date().toISOString();
      return Number(insert.run(name, markId, JSON.stringify(rule), at, at).lastInsertRowid);
    },
    update(id: number, name: string, markId: number, rule: PresetRule): void {
      update.run(name, markId, JSON.stringify(rule), new Date().toISOString(), id);
    },
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
  };
}
