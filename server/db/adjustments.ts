import { adjustmentSchema, type Adjustment } from '#core/contract/adjustment';
import type { Db } from './open.ts';
import { parseOnce } from './parseOnce.ts';

export interface AdjustmentRow {
  readonly photoId: number;
  readonly adjustment: Adjustment;
}

interface Stored {
  photoId: number;
  value: string;
}

export function adjustmentTable(db: Db) {
  const ofBatch = db.prepare<[number], Stored>(`
    SELECT photo_id AS photoId, value FROM adjustments
    JOIN photos ON photos.id = photo_id WHERE photos.batch_id = ?`);
  const set = db.prepare(`
    INSERT INTO adjustments (photo_id, value) VALUES (?, ?)
    ON CONFLICT (photo_id) DO UPDATE SET value = excluded.value`);
  const remove = db.prepare('DELETE FROM adjustments WHERE photo_id = ?');
  const forgetPreset = db.prepare<[number]>(`
    UPDATE adjustments SET value = json_remove(value, '$.presetId')
    WHERE json_extract(value, '$.presetId') = ?`);
  const removeEmpty = db.prepare("DELETE FROM adjustments WHERE value = '{}'");

  const adjustmentOf = parseOnce(adjustmentSchema);

  return {
    ofBatch: (batchId: number): AdjustmentRow[] =>
      ofBatch.all(batchId).map(({ photoId, value }) => ({
        photoId,
        adjustment: adjustmentOf(value),
      })),
    /** Null: the photo follows its batch again. */
    set(photoId: number, adjustment: Adjustment | null): void {
      if (adjustment) set.run(photoId, JSON.stringify(adjustment));
      else remove.run(photoId);
    },
    /** Photos with a preset of their own that is gone follow their batch's. */
    forgetPreset(presetId: number): void {
      forgetPreset.run(presetId);
      removeEmpty.run();
    },
  };
}
