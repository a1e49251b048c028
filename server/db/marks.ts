import type { MarkBox } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { Box } from '#core/placement/geometry';
import { EARLIER_KEPT, STOOD_SECONDS } from './earlierVersions.ts';
import { lastingIds } from './lastingIds.ts';
import type { ArtworkRow, EarlierArtwork, MarkRow } from './markRows.ts';
import type { Db } from './open.ts';

interface StoredArtwork {
  kind: 'svg' | 'png';
  natural_box: string;
  ink_box: string;
  notes: string;
  origin: string;
  box: string | null;
  has_pixels: number;
  is_pending: number;
}

interface Stored extends StoredArtwork {
  id: number;
  name: string;
  version: number;
  retired: number;
  created_at: string;
}

const ARTWORK = 'kind, natural_box, ink_box, notes, origin, box, has_pixels, is_pending';
const SELECT = `
  SELECT id, name, marks.version, retired, created_at, ${ARTWORK}
  FROM marks JOIN artworks ON artworks.mark_id = marks.id AND artworks.version = marks.version`;

/**
 * Versions before the present one that stood for a while: each change in the designer makes one, and
 * those of a moment are passed over.
 */
const EARLIER = `
  SELECT version, made_at AS madeAt, ink_box AS ink, natural_box AS natural
  FROM (
    SELECT *, lead(made_at) OVER (ORDER BY version) AS replaced_at
    FROM artworks WHERE mark_id = ?)
  WHERE version < ? AND is_pending = 0 AND (
    version = 1 OR made_at IS NULL OR json_extract(origin, '$.kind') <> 'design'
    OR unixepoch(replaced_at) - unixepoch(made_at) >= ${STOOD_SECONDS})
  ORDER BY version DESC LIMIT ${EARLIER_KEPT}`;

export function markTable(db: Db) {
  const all = db.prepare<[], Stored>(
    `${SELECT} WHERE deleted_at IS NULL ORDER BY retired, name, id`,
  );
  const one = db.prepare<[number], Stored>(`${SELECT} WHERE id = ? AND deleted_at IS NULL`);
  const insert = db.prepare('INSERT INTO marks (id, name, created_at) VALUES (?, ?, ?)');
  const nextId = lastingIds(db, 'marks');
  const advance = db.prepare('UPDATE marks SET version = ? WHERE id = ?');
  const newest = db.prepare<[number], { version: number | null }>(
    'SELECT max(version) AS version FROM artworks WHERE mark_id = ?',
  );
  const insertArtwork = db.prepare(
    `INSERT INTO artworks (mark_id, version, ${ARTWORK}, made_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const artwork = db.prepare<[number, number], StoredArtwork>(
    `SELECT ${ARTWORK} FROM artworks WHERE mark_id = ? AND version = ?`,
  );
  const setBox = db.prepare('UPDATE artworks SET box = ? WHERE mark_id = ? AND version = ?');
  const pending = db.prepare<[], { id: number }>(
    `SELECT id FROM marks JOIN artworks ON mark_id = id AND artworks.version = marks.version
     WHERE is_pending = 1`,
  );
  const complete = db.prepare(
    `UPDATE artworks SET kind = ?, natural_box = ?, ink_box = ?, notes = ?, has_pixels = ?,
       is_pending = 0
     WHERE mark_id = ? AND version = ? AND is_pending = 1`,
  );
  const withdraw = db.prepare(
    'DELETE FROM artworks WHERE mark_id = ? AND version = ? AND is_pending = 1',
  );
  const withdrawOld = db.prepare(
    `DELETE FROM artworks WHERE is_pending = 1
       AND version < (SELECT version FROM marks WHERE id = mark_id)`,
  );
  const finishedBefore = db.prepare<[number, number], { version: number | null }>(
    `SELECT max(version) AS version FROM artworks
     WHERE mark_id = ? AND version < ? AND is_pending = 0`,
  );
  const setNotes = db.prepare('UPDATE artworks SET notes = ? WHERE mark_id = ? AND version = ?');
  const rename = db.prepare('UPDATE marks SET name = ? WHERE id = ?');
  const retire = db.prepare('UPDATE marks SET retired = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM marks WHERE id = ?');
  const usedByRun = db.prepare<{ markId: number }, { n: number }>(
    `SELECT count(*) AS n FROM runs WHERE mark_id = @markId
     OR id IN (SELECT run_id FROM run_items WHERE mark_id = @markId)
     OR id IN (SELECT run_items.run_id FROM run_items, json_each(run_items.own_over) AS laid
       WHERE json_extract(laid.value, '$.markId') = @markId)
     OR id IN (SELECT runs.id FROM runs, json_each(runs.over) AS laid
       WHERE json_extract(laid.value, '$.markId') = @markId)`,
  );
  const scanUse = db.prepare<{ scanId: number }, { n: number }>(
    `SELECT count(*) AS n FROM artworks
     WHERE json_extract(origin, '$.scanId') = @scanId OR EXISTS (
       SELECT 1 FROM json_each(artworks.origin, '$.design.layers') AS layer
       WHERE json_extract(layer.value, '$.origin.scanId') = @scanId)`,
  );

  const removeUnneeded = db.prepare<
    [number, number, number, number, number, number, number, number, number],
    { version: number; kind: 'svg' | 'png' }
  >(`
    DELETE FROM artworks WHERE mark_id = ? AND version < ?
      AND version NOT IN (SELECT version FROM (${EARLIER}))
      AND version NOT IN (SELECT mark_version FROM runs WHERE mark_id = ?)
      AND version NOT IN (SELECT mark_version FROM run_items WHERE mark_id = ?)
      AND version NOT IN (
        SELECT json_extract(laid.value, '$.markVersion') FROM runs, json_each(runs.over) AS laid
        WHERE json_extract(laid.value, '$.markId') = ?)
      AND version NOT IN (
        SELECT json_extract(box, '$.version') FROM artworks
        WHERE mark_id = ? AND version = ? AND box IS NOT NULL)
    RETURNING version, kind`);
  const earlier = db.prepare<
    [number, number],
    { version: number; madeAt: string | null; ink: string; natural: string }
  >(EARLIER);
  const partsUsed = db.prepare<[], { part: string }>(`
    SELECT DISTINCT json_extract(layer.value, '$.part') AS part
    FROM artworks, json_each(artworks.origin, '$.design.layers') AS layer
    WHERE json_extract(layer.value, '$.kind') = 'artwork'`);

  /** Adds a version and makes it the present one. */
  const addVersion = (id: number, art: ArtworkRow): number => {
    const version = (newest.get(id)?.version ?? 0) + 1;
    const boxes = [JSON.stringify(art.natural), JSON.stringify(art.ink)];
    const rest = [JSON.stringify(art.notes), JSON.stringify(art.origin), boxText(art.box)];
    const flags = [Number(art.hasPixels), Number(art.isPending)];
    insertArtwork.run(id, version, art.kind, ...boxes, ...rest, ...flags, new Date().toISOString());
    advance.run(version, id);
    return version;
  };

  return {
    all: (): MarkRow[] => all.all().map(toMark),
    get(id: number): MarkRow | null {
      const row = one.get(id);
      return row ? toMark(row) : null;
    },
    artwork(id: number, version: number): ArtworkRow | null {
      const row = artwork.get(id, version);
      return row ? toArtwork(row) : null;
    },
    insert(name: string, art: ArtworkRow): number {
      const id = nextId();
      insert.run(id, name, new Date().toISOString());
      addVersion(id, art);
      return id;
    },
    /** Newest first; of those that can be taken back. */
    earlier: (id: number, version: number): EarlierArtwork[] =>
      earlier.all(id, version).map(({ ink, natural, ...row }) => ({
        ...row,
        ink: JSON.parse(ink) as Box,
        natural: JSON.parse(natural) as Box,
      })),
    nextVersion: (id: number): number => (newest.get(id)?.version ?? 0) + 1,
    addVersion,
    setBox: (id: number, version: number, box: MarkBox | null): void =>
      void setBox.run(boxText(box), id, version),
    /** Ids of marks whose present artwork is still being lifted. */
    pending: (): number[] => pending.all().map(({ id }) => id),
    /** @returns false where that version is not pending any more */
    complete(id: number, version: number, art: ArtworkRow): boolean {
      const { kind, natural, ink, notes, hasPixels } = art;
      const texts = [natural, ink, notes].map((value) => JSON.stringify(value));
      return complete.run(kind, ...texts, Number(hasPixels), id, version).changes > 0;
    },
    /** A version that came to nothing goes; the one before it is the present one again. */
    withdraw(id: number, version: number): void {
      withdraw.run(id, version);
      const before = newest.get(id)?.version;
      if (one.get(id)) return;
      if (before) advance.run(before, id);
      else remove.run(id);
    },
    /** The newest version before one that has its artwork. */
    finishedBefore: (id: number, version: number): number | null =>
      finishedBefore.get(id, version)?.version ?? null,
    /** Takes away what never was finished and that another version came after. */
    withdrawOld: (): void => void withdrawOld.run(),
    setNotes: (id: number, version: number, notes: readonly string[]): void =>
      void setNotes.run(JSON.stringify(notes), id, version),
    rename: (id: number, name: string): void => void rename.run(name, id),
    retire: (id: number, retired: boolean): void => void retire.run(Number(retired), id),
    remove: (id: number): void => void remove.run(id),
    isUsedByRun: (id: number): boolean => (usedByRun.get({ markId: id })?.n ?? 0) > 0,
    /** Removes versions before the present one that no run and no question about a box needs. */
    removeUnneeded(id: number, version: number): { version: number; kind: 'svg' | 'png' }[] {
      return removeUnneeded.all(id, version, id, version, id, id, id, id, version);
    },
    /** Names of the artwork that layers of all versions use. */
    partsUsed: (): Set<string> => new Set(partsUsed.all().map((row) => row.part)),
    isScanUsed: (scanId: number): boolean => (scanUse.get({ scanId })?.n ?? 0) > 0,
  };
}

function boxText(box: MarkBox | null): string | null {
  return box && JSON.stringify(box);
}

function toArtwork(row: StoredArtwork): ArtworkRow {
  return {
    kind: row.kind,
    natural: JSON.parse(row.natural_box) as Box,
    ink: JSON.parse(row.ink_box) as Box,
    notes: JSON.parse(row.notes) as string[],
    origin: JSON.parse(row.origin) as MarkOrigin,
    box: row.box === null ? null : (JSON.parse(row.box) as MarkBox),
    hasPixels: row.has_pixels === 1,
    isPending: row.is_pending === 1,
  };
}

function toMark(row: Stored): MarkRow {
  const { id, name, version } = row;
  return {
    ...toArtwork(row),
    ...{ id, name, version },
    retired: row.retired === 1,
    createdAt: row.created_at,
  };
}
