import { settingsSchema, type Settings } from '#core/contract/settings';
import type { Db } from './open.ts';

export function settingsTable(db: Db) {
  const read = db.prepare<[], { value: string }>('SELECT value FROM settings WHERE id = 1');
  const write = db.prepare(`
    INSERT INTO settings (id, value) VALUES (1, ?)
    ON CONFLICT (id) DO UPDATE SET value = excluded.value, version = version + 1`);
  const version = db.prepare<[], { version: number }>('SELECT version FROM settings WHERE id = 1');

  return {
    get: (): Settings => settingsSchema.parse(JSON.parse(read.get()?.value ?? '{}')),
    /** Counted up with each change; 0 before the first. */
    version: (): number => version.get()?.version ?? 0,
    set: (settings: Settings): void => void write.run(JSON.stringify(settings)),
  };
}
