import {
  besideSchema,
  pinsSchema,
  placingSchema,
  type Beside,
  type Pins,
  type Placing,
} from '#core/contract/http';
import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';

export interface BatchRow {
  readonly id: number;
  readonly name: string;
  readonly presetId: number | null;
  /** Deliveries it goes out by, as they were chosen. */
  readonly deliveryIds: readonly number[];
  readonly openedAt: string;
  readonly photoCount: number;
  /** The photo shown for the batch: its first. */
  readonly coverId: number | null;
  /** Photos put by hand among the five hard ones. */
  readonly pins: Pins;
  /** What its bench holds where that is not its preset as it is saved. */
  readonly placing: Placing | null;
  /** Marks beside the one in hand. */
  readonly beside: Beside;
}

interface Stored extends Omit<BatchRow, 'deliveryIds' | 'pins' | 'placing' | 'beside'> {
  readonly beside: string;
  readonly deliveryIds: string;
  readonly pins: string;
  readonly placing: string | null;
}

export type BatchChange = Partial<
  Pick<BatchRow, 'name' | 'presetId' | 'deliveryIds' | 'pins' | 'placing' | 'beside'>
>;

const SELECT = `
  SELECT b.id, b.name, b.preset_id AS presetId,
    (SELECT json_group_array(id) FROM
      (SELECT d.id FROM json_each(b.delivery_ids) j JOIN deliveries d ON d.id = j.value
       WHERE d.deleted_at IS NULL ORDER BY j.key)) AS deliveryIds,
    b.opened_at AS openedAt, b.pins, b.placing, b.beside,
    (SELECT count(*) FROM photos p WHERE p.batch_id = b.id) AS photoCount,
    (SELECT p.id FROM photos p WHERE p.batch_id = b.id
      ORDER BY p.captured_at IS NULL, p.captured_at, p.name, p.id LIMIT 1) AS coverId
  FROM batches b`;

export function batchTable(db: Db) {
  const all = db.prepare<[], Stored>(`${SELECT} WHERE b.deleted_at IS NULL
    ORDER BY b.opened_at DESC, b.id DESC`);
  const one = db.prepare<[number], Stored>(`${SELECT} WHERE b.id = ? AND b.deleted_at IS NULL`);
  const insert = db.prepare(`
    INSERT INTO batches (id, name, preset_id, delivery_ids, created_at, opened_at)
    VALUES (?, ?, ?, ?, ?, ?)`);
  const nextId = lastingIds(db, 'batches');
  const update = db.prepare(
    `UPDATE batches SET name = ?, preset_id = ?, delivery_ids = ?, pins = ?, placing = ?, beside = ?
     WHERE id = ?`,
  );
  const touch = db.prepare('UPDATE batches SET opened_at = ? WHERE id = ?');
  const setTakenFrom = db.prepare('UPDATE batches SET taken_from = ? WHERE id = ?');
  const takenFrom = db.prepare<[number], { id: number }>(
    `SELECT b.id FROM batches t JOIN batches b ON b.id = t.taken_from
     WHERE t.id = ? AND b.deleted_at IS NULL`,
  );
  const remove = db.prepare('DELETE FROM batches WHERE id = ?');

  return {
    all: (): BatchRow[] => all.all().map(toBatch),
    get(id: number): BatchRow | null {
      const row = one.get(id);
      return row ? toBatch(row) : null;
    },
    insert(name: string, presetId: number | null, deliveryIds: readonly number[]): number {
      const at = new Date().toISOString();
      const id = nextId();
      insert.run(id, name, presetId, JSON.stringify(deliveryIds), at, at);
      return id;
    },
    update(batch: BatchRow, change: BatchChange): void {
      const { name, presetId, deliveryIds, pins, placing, beside } = { ...batch, ...change };
      const kept = placing && JSON.stringify(placing);
      const ids = JSON.stringify(deliveryIds);
      const others = JSON.stringify(beside);
      update.run(name, presetId, ids, JSON.stringify(pins), kept, others, batch.id);
    },
    /** A batch for the bin, of photos that are taken out of one. */
    insertTaken(name: string, from: BatchRow): number {
      const id = nextId();
      const at = new Date().toISOString();
      insert.run(id, name, from.presetId, JSON.stringify(from.deliveryIds), at, at);
      setTakenFrom.run(from.id, id);
      return id;
    },
    /** The batch that the photos of one in the bin were taken out of, where that is there. */
    takenFrom: (id: number): number | null => takenFrom.get(id)?.id ?? null,
    touch: (id: number): void => void touch.run(new Date().toISOString(), id),
    remove: (id: number): void => void remove.run(id),
  };
}

function toBatch(row: Stored): BatchRow {
  return {
    ...row,
    deliveryIds: JSON.parse(row.deliveryIds) as number[],
    pins: pinsSchema.parse(JSON.parse(row.pins)),
    beside: besideSchema.parse(JSON.parse(row.beside)),
    placing: row.placing === null ? null : placingSchema.parse(JSON.parse(row.placing)),
  };
}
