import { meanLightness, type LightMap } from '#core/readability/lightMap';
import type { TakenPhoto } from '../imaging/pool/imagingTasks.ts';
import type { Described } from '../imaging/metadata/rights.ts';
import { lastingIds } from './lastingIds.ts';
import type { Db } from './open.ts';
import type { OwnPaths } from './ownPaths.ts';

/** A photo without its light map, which only the readability measure needs. */
export interface PhotoRow {
  readonly id: number;
  readonly batchId: number;
  readonly name: string;
  readonly path: string;
  readonly origin: PhotoOrigin;
  readonly bytes: number;
  readonly format: string;
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly profile: string | null;
  readonly capturedAt: string | null;
  readonly camera: string | null;
  readonly lens: string | null;
  /** By the photo's own notes. */
  readonly place: string | null;
  readonly caption: string | null;
  readonly artist: string | null;
  /** Mean L*, 0 to 100. */
  readonly lightness: number;
  readonly proxyWidth: number;
  readonly proxyHeight: number;
  readonly modifiedMs: number;
  /** Counted up when it was read again. */
  readonly version: number;
  /** What should be known of it, such as that it has changed. */
  readonly note: string | null;
}

export type PhotoOrigin = 'copied' | 'in-place';

export interface PhotoPlace {
  readonly batchId: number;
  readonly name: string;
  readonly path: string;
  readonly origin: PhotoOrigin;
  /** SHA-256 of a copy. */
  readonly contentHash: string | null;
}

export interface FileIdentity {
  readonly device: string;
  readonly inode: string;
}

const COLUMNS = `
  id, batch_id AS batchId, name, path, origin, bytes, format, width, height, bits, profile,
  captured_at AS capturedAt, camera, lens, place, caption, artist, lightness, proxy_width AS proxyWidth, proxy_height AS proxyHeight,
  modified_ms AS modifiedMs, version, note`;

/** Capture time first, since that is how a shoot is remembered; photos without one come last. */
export const BATCH_ORDER = 'ORDER BY captured_at IS NULL, captured_at, name, id';

export function photoTable(db: Db, { stored, resolved }: OwnPaths) {
  const byBatch = db.prepare<[number], PhotoRow>(
    `SELECT ${COLUMNS} FROM photos WHERE batch_id = ? ${BATCH_ORDER}`,
  );
  const one = db.prepare<[number], PhotoRow>(`SELECT ${COLUMNS} FROM photos WHERE id = ?`);
  const byPath = db.prepare<[number, string], PhotoRow>(
    `SELECT ${COLUMNS} FROM photos WHERE batch_id = ? AND path = ?`,
  );
  const byContent = db.prepare<[number, string], PhotoRow>(
    `SELECT ${COLUMNS} FROM photos WHERE batch_id = ? AND content_hash = ?`,
  );
  const allPaths = db.prepare<[], { path: string }>('SELECT DISTINCT path FROM photos');
  const identities = db.prepare<[], FileIdentity>('SELECT DISTINCT device, inode FROM photos');
  const light = db.prepare<[number], LightMap>(
    'SELECT light_width AS width, light_height AS height, light_cells AS cells FROM photos WHERE id = ?',
  );
  const nextId = lastingIds(db, 'photos');
  const insert = db.prepare(`
    INSERT INTO photos (id, batch_id, name, path, origin, device, inode, bytes, modified_ms, format,
      width, height, bits, profile, captured_at, camera, lens, place, caption, artist, has_words,
      proxy_width, proxy_height, light_width, light_height, light_cells, lightness, added_at, content_hash)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?, ?, ?, ?, ?, ?)`);
  const wordless = db.prepare<[], Pick<PhotoRow, 'id' | 'batchId' | 'path'>>(
    'SELECT id, batch_id AS batchId, path FROM photos WHERE has_words = 0 ORDER BY id DESC',
  );
  const setWords = db.prepare(
    'UPDATE photos SET place = ?, caption = ?, artist = ?, has_words = 1 WHERE id = ?',
  );
  const setPath = db.prepare('UPDATE photos SET path = ? WHERE id = ?');
  const readAgain = db.prepare(`
    UPDATE photos SET device = ?, inode = ?, bytes = ?, modified_ms = ?, format = ?, width = ?,
      height = ?, bits = ?, profile = ?, captured_at = ?, camera = ?, lens = ?, place = ?,
      caption = ?, artist = ?, has_words = 1, proxy_width = ?, proxy_height = ?, light_width = ?, light_height = ?, light_cells = ?, lightness = ?,
      version = version + 1, note = ?
    WHERE id = ?`);
  const setNote = db.prepare('UPDATE photos SET note = ? WHERE id = ?');
  const move = db.prepare('UPDATE photos SET batch_id = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM photos WHERE id = ?');
  const toPhoto = (row: PhotoRow): PhotoRow => ({ ...row, path: resolved(row.path) });
  const orNull = (row: PhotoRow | undefined): PhotoRow | null => (row ? toPhoto(row) : null);

  return {
    ofBatch: (batchId: number): PhotoRow[] => byBatch.all(batchId).map(toPhoto),
    get: (id: number): PhotoRow | null => orNull(one.get(id)),
    lightMap: (id: number): LightMap | null => light.get(id) ?? null,
    atPath: (batchId: number, path: string): PhotoRow | null =>
      orNull(byPath.get(batchId, stored(path))),
    withContent: (batchId: number, hash: string): PhotoRow | null =>
      orNull(byContent.get(batchId, hash)),
    /** Of all photos of all batches. */
    allPaths: (): string[] => allPaths.all().map(({ path }) => resolved(path)),
    identities: (): FileIdentity[] => identities.all(),
    /** Photos that were taken in before their words were; the newest first. */
    wordless: () => wordless.all().map((row) => ({ ...row, path: resolved(row.path) })),
    setWords: (id: number, { place, caption, artist }: Described): void =>
      void setWords.run(place, caption, artist, id),
    insert(place: PhotoPlace, taken: TakenPhoto): number {
      const id = nextId();
      insert.run(
        id,
        ...[place.batchId, place.name, stored(place.path), place.origin],
        ...readValues(taken),
        ...[new Date().toISOString(), place.contentHash],
      );
      return id;
    },
    /** As it is on disk now. */
    readAgain: (id: number, taken: TakenPhoto, note: string): void =>
      void readAgain.run(...readValues(taken), note, id),
    setNote: (id: number, note: string | null): void => void setNote.run(note, id),
    setPath: (id: number, path: string): void => void setPath.run(stored(path), id),
    /** Into another batch. */
    move: (id: number, batchId: number): void => void move.run(batchId, id),
    remove: (id: number): void => void remove.run(id),
  };
}

/** What reading a photo gives, in the order of the columns. */
function readValues({ probed, facts, proxySize, light, profile }: TakenPhoto) {
  return [
    ...[probed.device, probed.inode, probed.bytes, Math.round(probed.modifiedMs)],
    ...[probed.format, probed.size.width, probed.size.height, probed.bitsPerChannel, profile],
    ...[facts.capturedAt, facts.camera, facts.lens, facts.place, facts.caption, facts.artist],
    ...[proxySize.width, proxySize.height],
    ...[light.width, light.height, Buffer.from(light.cells), meanLightness(light)],
  ];
}
