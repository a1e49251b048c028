import type { BinKind } from '#core/contract/http';
import type { Db } from './open.ts';

/** Something that was deleted and is kept for a while; its table does not list it any more. */
export interface BinnedRow {
  readonly kind: BinKind;
  readonly id: number;
  readonly name: string;
  readonly deletedAt: string;
}

const KINDS: readonly BinKind[] = ['marks', 'presets', 'deliveries', 'batches'];

/** What was deleted, of all kinds that can be put back. */
export function binTable(db: Db) {
  const all = db.prepare<[], BinnedRow>(
    `${KINDS.map(
      (kind) => `SELECT '${kind}' AS kind, id, name, deleted_at AS deletedAt FROM ${kind}
        WHERE deleted_at IS NOT NULL`,
    ).join(' UNION ALL ')} ORDER BY deletedAt DESC, id DESC`,
  );
  const statements = new Map(
    KINDS.map((kind) => [
      kind,
      {
        set: db.prepare(`UPDATE ${kind} SET deleted_at = ? WHERE id = ?`),
        rename: db.prepare(`UPDATE ${kind} SET name = ? WHERE id = ?`),
      },
    ]),
  );
  const presetsOfMark = db.prepare<[number], { id: number }>(
    'SELECT id FROM presets WHERE mark_id = ? AND deleted_at IS NOT NULL',
  );
  const markOfPreset = db.prepare<[number], { id: number }>(
    `SELECT marks.id FROM presets JOIN marks ON marks.id = mark_id
     WHERE presets.id = ? AND marks.deleted_at IS NOT NULL`,
  );
  const forgetPreset = db.prepare('UPDATE deliveries SET preset_id = NULL WHERE preset_id = ?');
  const forgetBinnedPreset = db.prepare(
    `UPDATE deliveries SET preset_id = NULL WHERE id = ?
       AND preset_id IN (SELECT id FROM presets WHERE deleted_at IS NOT NULL)`,
  );

  return {
    all: (): BinnedRow[] => all.all(),
    put: (kind: BinKind, id: number): void =>
      void statements.get(kind)?.set.run(new Date().toISOString(), id),
    takeOut(kind: BinKind, id: number, name: string): void {
      statements.get(kind)?.rename.run(name, id);
      statements.get(kind)?.set.run(null, id);
    },
    /** Presets in the bin that place a mark. */
    presetsOfMark: (markId: number): number[] => presetsOfMark.all(markId).map(({ id }) => id),
    /** The mark of a preset, where it lies in the bin, too. */
    markOfPreset: (presetId: number): number | null => markOfPreset.get(presetId)?.id ?? null,
    /** Deliveries name the preset no longer, in the bin or not. */
    forgetPreset: (presetId: number): void => void forgetPreset.run(presetId),
    /** A delivery that is put back names no preset that is still in the bin. */
    forgetBinnedPreset: (deliveryId: number): void => void forgetBinnedPreset.run(deliveryId),
  };
}
