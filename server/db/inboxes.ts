import type { Db } from './open.ts';
import type { OwnPaths } from './ownPaths.ts';

export interface InboxRow {
  readonly id: number;
  readonly name: string;
  readonly folder: string;
  /** The lowest first. */
  readonly presetIds: readonly number[];
  readonly deliveryIds: readonly number[];
  readonly isOn: boolean;
  /** Where photos go that cannot be read; null: they stay. */
  readonly aside: string | null;
  readonly createdAt: string;
}

export type InboxFields = Omit<InboxRow, 'id' | 'createdAt'>;

/** A photo of an inbox as it was when it was taken. */
export interface InboxFile {
  /** Below the folder, with `/` between folders. */
  readonly name: string;
  readonly bytes: number;
  readonly modifiedMs: number;
  /** SHA-256 of its bytes, hexadecimal. */
  readonly hash: string;
  /** Position among all that were taken, from 1. */
  readonly number: number;
  /** Why it could not be read at all; else a run has it. */
  readonly problem: string | null;
}

/** What has become of the photos of an inbox. */
export interface InboxCounts {
  readonly taken: number;
  /** Photos that could not be read at all. */
  readonly unread: number;
  /** Outputs. */
  readonly written: number;
  readonly failed: number;
  readonly lastRunId: number | null;
}

interface Stored extends Omit<InboxRow, 'presetIds' | 'deliveryIds' | 'isOn'> {
  readonly presetIds: string;
  readonly deliveryIds: string;
  readonly isOn: number;
}

const COLUMNS = `id, name, folder, preset_ids AS presetIds, delivery_ids AS deliveryIds,
  is_on AS isOn, aside, created_at AS createdAt`;
const FILE_COLUMNS = 'name, bytes, modified_ms AS modifiedMs, hash, number, problem';

export function inboxTable(db: Db, { stored, resolved }: OwnPaths) {
  const all = db.prepare<[], Stored>(
    `SELECT ${COLUMNS} FROM inboxes ORDER BY name COLLATE NOCASE, id`,
  );
  const one = db.prepare<[number], Stored>(`SELECT ${COLUMNS} FROM inboxes WHERE id = ?`);
  const insert = db.prepare(`
    INSERT INTO inboxes (name, folder, preset_ids, delivery_ids, is_on, aside, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?)`);
  const update = db.prepare(`
    UPDATE inboxes SET name = ?, folder = ?, preset_ids = ?, delivery_ids = ?, is_on = ?, aside = ?
    WHERE id = ?`);
  const remove = db.prepare('DELETE FROM inboxes WHERE id = ?');
  const usersOf = (column: string) =>
    db.prepare<[number], { name: string }>(`
      SELECT name FROM inboxes WHERE ? IN (SELECT value FROM json_each(${column})) ORDER BY name`);
  const users = { preset: usersOf('preset_ids'), delivery: usersOf('delivery_ids') };
  const file = db.prepare<[number, string], InboxFile>(
    `SELECT ${FILE_COLUMNS} FROM inbox_files WHERE inbox_id = ? AND name = ?`,
  );
  const highest = db.prepare<[number], { number: number | null }>(
    'SELECT max(number) AS number FROM inbox_files WHERE inbox_id = ?',
  );
  const unread = db.prepare<[number], InboxFile>(
    `SELECT ${FILE_COLUMNS} FROM inbox_files WHERE inbox_id = ? AND problem IS NOT NULL
     ORDER BY number DESC LIMIT 100`,
  );
  const putFile = db.prepare(`
    INSERT INTO inbox_files (inbox_id, name, bytes, modified_ms, hash, number, problem)
    VALUES (?, ?, ?, ?, ?, ?, ?)
    ON CONFLICT (inbox_id, name) DO UPDATE SET bytes = excluded.bytes,
      modified_ms = excluded.modified_ms, hash = excluded.hash, problem = excluded.problem`);
  const counts = db.prepare<[{ id: number }], InboxCounts>(`
    SELECT
      (SELECT count(*) FROM inbox_files WHERE inbox_id = @id) AS taken,
      (SELECT count(*) FROM inbox_files WHERE inbox_id = @id AND problem IS NOT NULL) AS unread,
      count(*) FILTER (WHERE status = 'written') AS written,
      count(*) FILTER (WHERE status = 'failed') AS failed,
      max(run_id) AS lastRunId
    FROM run_items WHERE run_id IN (SELECT id FROM runs WHERE inbox_id = @id)`);
  const lastRun = db.prepare<[number, string], { id: number }>(
    'SELECT id FROM runs WHERE inbox_id = ? AND below = ? ORDER BY id DESC LIMIT 1',
  );
  const setInbox = db.prepare('UPDATE runs SET inbox_id = ?, below = ? WHERE id = ?');

  const values = ({ name, folder, presetIds, deliveryIds, isOn, aside }: InboxFields) => [
    ...[name, stored(folder), JSON.stringify(presetIds), JSON.stringify(deliveryIds)],
    ...[Number(isOn), aside === null ? null : stored(aside)],
  ];
  const toInbox = (row: Stored): InboxRow => ({
    ...row,
    folder: resolved(row.folder),
    aside: row.aside === null ? null : resolved(row.aside),
    presetIds: JSON.parse(row.presetIds) as number[],
    deliveryIds: JSON.parse(row.deliveryIds) as number[],
    isOn: row.isOn === 1,
  });
  return {
    all: (): InboxRow[] => all.all().map(toInbox),
    get(id: number): InboxRow | null {
      const row = one.get(id);
      return row ? toInbox(row) : null;
    },
    insert: (fields: InboxFields): number =>
      Number(insert.run(...values(fields), new Date().toISOString()).lastInsertRowid),
    update: (id: number, fields: InboxFields): void => void update.run(...values(fields), id),
    remove: (id: number): void => void remove.run(id),
    /** Names of inboxes that go by a preset or a delivery. */
    namesUsing: (what: keyof typeof users, id: number): string[] =>
      users[what].all(id).map(({ name }) => name),
    file: (id: number, name: string): InboxFile | null => file.get(id, name) ?? null,
    /** The number that a photo has, or is to have. */
    numberOf: (id: number, name: string): number =>
      file.get(id, name)?.number ?? (highest.get(id)?.number ?? 0) + 1,
    putFile(id: number, { name, bytes, modifiedMs, hash, number, problem }: InboxFile): void {
      putFile.run(id, name, bytes, modifiedMs, hash, number, problem);
    },
    /** Photos that could not be read at all, the latest first. */
    unread: (id: number): InboxFile[] => unread.all(id),
    counts: (id: number): InboxCounts => counts.get({ id }) as InboxCounts,
    /** The run that was begun last for the photos of a folder below an inbox. */
    lastRun: (id: number, below: string): number | null => lastRun.get(id, below)?.id ?? null,
    ofInbox: (runId: number, id: number, below: string): void =>
      void setInbox.run(id, below, runId),
  };
}
