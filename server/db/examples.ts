import type { Db } from './open.ts';

/** What belongs to the examples. */
export interface ExamplesRow {
  /** Null where the batch was deleted by itself. */
  readonly batchId: number | null;
  readonly markIds: readonly number[];
  readonly presetIds: readonly number[];
}

interface Stored {
  batch_id: number | null;
  mark_ids: string;
  preset_ids: string;
}

export function examplesTable(db: Db) {
  const one = db.prepare<[], Stored>('SELECT batch_id, mark_ids, preset_ids FROM examples');
  const set = db.prepare(
    'INSERT OR REPLACE INTO examples (id, batch_id, mark_ids, preset_ids) VALUES (1, ?, ?, ?)',
  );
  const remove = db.prepare('DELETE FROM examples');

  return {
    get(): ExamplesRow | null {
      const row = one.get();
      if (!row) return null;
      const { batch_id: batchId, mark_ids: marks, preset_ids: presets } = row;
      const ids = (text: string): number[] => JSON.parse(text) as number[];
      return { batchId, markIds: ids(marks), presetIds: ids(presets) };
    },
    set({ batchId, markIds, presetIds }: ExamplesRow): void {
      set.run(batchId, JSON.stringify(markIds), JSON.stringify(presetIds));
    },
    remove: (): void => void remove.run(),
  };
}
