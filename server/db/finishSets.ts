import { finishesSchema, type Finish } from '#core/contract/finish';
import type { FinishSetView } from '#core/contract/http';
import type { Db } from './open.ts';

/** Sets of finishes under a name. */
export function finishSetTable(db: Db) {
  type Stored = { id: number; name: string; finishes: string };
  const all = db.prepare<[], Stored>('SELECT id, name, finishes FROM finish_sets ORDER BY name');
  const put = db.prepare(`
    INSERT INTO finish_sets (name, finishes) VALUES (?, ?)
    ON CONFLICT (name) DO UPDATE SET finishes = excluded.finishes`);
  const remove = db.prepare('DELETE FROM finish_sets WHERE id = ?');

  return {
    all: (): FinishSetView[] =>
      all.all().map(({ id, name, finishes }) => ({
        ...{ id, name },
        finishes: finishesSchema.parse(JSON.parse(finishes)),
      })),
    /** A set of that name takes the new finishes. */
    put: (name: string, finishes: readonly Finish[]): void =>
      void put.run(name, JSON.stringify(finishes)),
    remove: (id: number): void => void remove.run(id),
  };
}
