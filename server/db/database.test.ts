import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase } from './open.ts';
import { ownPaths } from './ownPaths.ts';
import { openTables } from './tables.ts';

/** Databases of before, brought up to date with what is in them; paths that can move house. */

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-database-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const migrations = fileURLToPath(new URL('./migrations', import.meta.url));
const FILES = ['001_first_light', '002_artwork_versions', '003_designs', '004_adjustments'];
const box = JSON.stringify({ x: 0, y: 0, width: 30, height: 10 });

/** A database as step 4 left it, of an application whose data lay in another folder. */
function oldDatabase(root: string): string {
  const path = join(folder, 'old.sqlite');
  const db = new Database(path);
  for (const name of FILES) db.exec(readFileSync(join(migrations, `${name}.sql`), 'utf8'));
  db.pragma(`user_version = ${FILES.length}`);
  db.exec(`
    INSERT INTO marks (id, name, version, created_at) VALUES (1, 'Old', 1, '2026');
    INSERT INTO artworks (mark_id, version, kind, natural_box, ink_box) VALUES (1, 1, 'svg', '${box}', '${box}');
    INSERT INTO presets (id, name, mark_id, rule, created_at, updated_at, position)
      VALUES (4, 'Low right', 1, '{"opacity":0.5}', '2026', '2026', 0);
    INSERT INTO batches (id, name, preset_id, created_at, opened_at) VALUES (2, 'Shore', 4, '2026', '2026');
    INSERT INTO deliveries (id, name, recipe, folder, created_at)
      VALUES (3, 'Web', '{}', '${root}/exports/web', '2026');`);
  const photo = db.prepare(`
    INSERT INTO photos (id, batch_id, name, path, origin, device, inode, bytes, modified_ms, format,
      width, height, bits, proxy_width, proxy_height, light_width, light_height, light_cells,
      lightness, added_at)
    VALUES (?, 2, ?, ?, ?, '1', '2', 3, 4, 'jpeg', 30, 20, 8, 30, 20, 1, 1, x'00', 50, '2026')`);
  photo.run(7, 'a.jpg', `${root}/photos/7.jpg`, 'copied');
  photo.run(8, 'b.jpg', '/elsewhere/b.jpg', 'in-place');
  db.prepare('INSERT INTO adjustments (photo_id, value) VALUES (8, \'{"opacity":0.2}\')').run();
  db.prepare(
    `INSERT INTO runs (id, batch_id, batch_name, delivery_id, delivery_name, recipe, preset_name, rule,
       mark_id, mark_version, folder, state, created_at)
     VALUES (5, 2, 'Shore', 3, 'Web', ?, 'Low right', ?, 1, 1, ?, 'paused', '2026-01-01T00:00:00Z')`,
  ).run(JSON.stringify(DEFAULT_DELIVERY), JSON.stringify(DEFAULT_RULE), `${root}/exports/Shore`);
  db.prepare(
    `INSERT INTO run_items (id, run_id, number, photo_id, source_path, source_name, width, height, status, output)
     VALUES (6, 5, 1, 7, ?, 'a.jpg', 30, 20, 'written', ?), (9, 5, 2, 8, '/elsewhere/b.jpg', 'b.jpg', 30, 20, 'waiting', NULL)`,
  ).run(`${root}/photos/7.jpg`, `${root}/exports/Shore/a-web.jpg`);
  db.close();
  return path;
}

describe('a database of before', () => {
  it.each([
    ['where it was', null],
    ['in another place, where it was copied to', '/home/ines/data'],
  ])('keeps everything, opened %s', (_, root) => {
    const db = openDatabase(oldDatabase(root ?? folder), folder);
    const tables = openTables(db, folder);
    expect(tables.photos.get(7)?.path).toBe(join(folder, 'photos/7.jpg'));
    expect(tables.photos.get(8)).toMatchObject({
      path: '/elsewhere/b.jpg',
      version: 1,
      note: null,
    });
    expect(tables.runs.get(5)).toMatchObject({
      ...{ state: 'paused', problem: null, presetId: null },
      deliveries: [{ deliveryId: 3, folder: join(folder, 'exports/Shore') }],
    });
    const [written, waiting] = tables.items.ofRun(5);
    expect(written.sourcePath).toBe(join(folder, 'photos/7.jpg'));
    expect(written.output).toBe(join(folder, 'exports/Shore/a-web.jpg'));
    expect(waiting.sourcePath).toBe('/elsewhere/b.jpg');
    expect(tables.deliveries.get(3)).toMatchObject({
      ...{ folder: join(folder, 'exports/web'), version: 1 },
    });
    expect(tables.presets.get(4)).toMatchObject({ name: 'Low right', version: 1 });
    expect(tables.adjustments.ofBatch(2)).toEqual([{ photoId: 8, adjustment: { opacity: 0.2 } }]);
    db.close();
  });

  it('is left alone when it is from a newer application', () => {
    const path = oldDatabase(folder);
    const db = new Database(path);
    db.pragma('user_version = 99');
    db.close();
    expect(() => openDatabase(path, folder)).toThrow('newer Light Crest');
  });
});

describe('paths below the data folder', () => {
  const { stored, resolved } = ownPaths('/data/own');

  it.each([
    ['/data/own/photos/7.jpg', 'data:photos/7.jpg'],
    ['/data/own-beside/7.jpg', '/data/own-beside/7.jpg'],
    ['/pictures/7.jpg', '/pictures/7.jpg'],
  ])('%s is stored as %s', (path, text) => {
    expect(stored(path)).toBe(text);
    expect(resolved(text)).toBe(path);
    expect(ownPaths('/moved').resolved(text)).toBe(path.replace('/data/own/', '/moved/'));
  });
});

it('ids of what was deleted are not given out again', () => {
  const db = openDatabase(oldDatabase(folder), folder);
  const { batches, presets } = openTables(db, folder);
  const first = batches.insert('A', null, []);
  batches.remove(first);
  expect(batches.insert('B', null, [])).toBe(first + 1);
  const preset = presets.insert('P', 1, DEFAULT_RULE);
  presets.remove(preset);
  expect(presets.insert('Q', 1, DEFAULT_RULE)).toBe(preset + 1);
  db.close();
});

describe('versions', () => {
  it('are counted up by changes, and by nothing else', () => {
    const db = openDatabase(oldDatabase(folder), folder);
    const { presets, deliveries, settings, together } = openTables(db, folder);
    presets.favour(4, true);
    presets.noteUse(4);
    expect(presets.get(4)?.version).toBe(1);
    presets.update(4, 'New name', 1, DEFAULT_RULE);
    expect(presets.get(4)?.version).toBe(2);
    const delivery = deliveries.get(3);
    if (!delivery) throw new Error('gone');
    deliveries.update(3, { ...delivery, name: 'Web, small' });
    expect(deliveries.get(3)?.version).toBe(2);
    const before = settings.version();
    settings.set(settings.get());
    settings.set(settings.get());
    expect(settings.version()).toBeGreaterThan(before);
    expect(() =>
      together(() => {
        presets.update(4, 'Never', 1, DEFAULT_RULE);
        throw new Error('no');
      }),
    ).toThrow();
    expect(presets.get(4)).toMatchObject({ name: 'New name', version: 2 });
    db.close();
  });
});
