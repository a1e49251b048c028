import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import type { Subfolder } from '#core/contract/http';
import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';
import type { OwnPaths } from './ownPaths.ts';

export interface DeliveryRow {
  readonly id: number;
  readonly name: string;
  readonly presetId: number | null;
  /** Presets laid over that, the lowest first; those that are gone or in the bin are left out. */
  readonly overIds: readonly number[];
  readonly rule: DeliveryRule;
  readonly folder: string | null;
  readonly subfolder: Subfolder;
  readonly zip: boolean;
  readonly favourite: boolean;
  /** Counted up with each change. */
  readonly version: number;
  readonly updatedAt: string;
}

export type DeliveryFields = Omit<DeliveryRow, 'id' | 'version' | 'updatedAt'>;

interface Stored {
  id: number;
  name: string;
  preset_id: number | null;
  overIds: string;
  rule: string;
  folder: string | null;
  subfolder: Subfolder;
  zip: number;
  favourite: number;
  version: number;
  updatedAt: string;
}

const COLUMNS = `
  id, name, preset_id, rule, folder, subfolder, zip, favourite, version, updated_at AS updatedAt,
  (SELECT json_group_array(id) FROM
    (SELECT p.id FROM json_each(over_ids) j JOIN presets p ON p.id = j.value
     WHERE p.deleted_at IS NULL ORDER BY j.key)) AS overIds`;

export function deliveryTable(db: Db, { stored, resolved }: OwnPaths) {
  const all = db.prepare<[], Stored>(
    `SELECT ${COLUMNS} FROM deliveries WHERE deleted_at IS NULL
     ORDER BY favourite DESC, id`,
  );
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM deliveries
     WHERE id = ? AND deleted_at IS NULL`);
  const insert = db.prepare(`
    INSERT INTO deliveries (id, name, preset_id, over_ids, rule, folder, subfolder, zip,
      favourite, created_at, updated_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`);
  const update = db.prepare(`
    UPDATE deliveries SET name = ?, preset_id = ?, over_ids = ?, rule = ?, folder = ?, subfolder = ?, zip = ?,
      favourite = ?, version = version + 1, updated_at = ?
    WHERE id = ?`);
  const nextId = lastingIds(db, 'deliveries');
  const everMade = db.prepare<[], { last: number }>(
    "SELECT last FROM lasting_ids WHERE name = 'deliveries'",
  );
  const remove = db.prepare('DELETE FROM deliveries WHERE id = ?');
  const named = db.prepare<[number], { name: string }>(
    `SELECT name FROM deliveries
     WHERE ? IN (SELECT preset_id UNION SELECT value FROM json_each(over_ids))
       AND deleted_at IS NULL ORDER BY name`,
  );

  const values = ({ name, presetId, overIds, rule, folder, ...own }: DeliveryFields) => [
    ...[name, presetId, JSON.stringify(overIds), JSON.stringify(rule)],
    ...[folder === null ? null : stored(folder), own.subfolder],
    ...[Number(own.zip), Number(own.favourite)],
  ];
  const toDelivery = (row: Stored): DeliveryRow => ({
    id: row.id,
    name: row.name,
    presetId: row.preset_id,
    overIds: row.preset_id === null ? [] : (JSON.parse(row.overIds) as number[]),
    rule: deliveryRuleSchema.parse(JSON.parse(row.rule)),
    folder: row.folder === null ? null : resolved(row.folder),
    subfolder: row.subfolder,
    zip: row.zip === 1,
    favourite: row.favourite === 1,
    version: row.version,
    updatedAt: row.updatedAt,
  });

  return {
    /** Whether there ever was one, deleted or not. */
    wereEverMade: (): boolean => (everMade.get()?.last ?? 0) > 0,
    all: (): DeliveryRow[] => all.all().map(toDelivery),
    get(id: number): DeliveryRow | null {
      const row = one.get(id);
      return row ? toDelivery(row) : null;
    },
    insert(fields: DeliveryFields): number {
      const id = nextId();
      const at = new Date().toISOString();
      insert.run(id, ...values(fields), at, at);
      return id;
    },
    update: (id: number, fields: DeliveryFields): void =>
      void update.run(...values(fields), new Date().toISOString(), id),
    remove: (id: number): void => void remove.run(id),
    namesUsingPreset: (presetId: number): string[] => named.all(presetId).map((row) => row.name),
  };
}
