import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase, type Db } from './open.ts';
import { openTables, type Tables } from './tables.ts';

/** Outputs of a run: which come next, and which have changed since somebody looked. */

const PHOTOS = 4;
const DELIVERIES = 2;

let folder: string;
let db: Db;
let tables: Tables;
let runId: number;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-items-'));
  db = openDatabase(join(folder, 'd.sqlite'), folder);
  tables = openTables(db, folder);
  db.pragma('foreign_keys = OFF');
  runId = newRun();
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

function newRun(): number {
  const delivery = { deliveryId: null, name: 'd', rule: DEFAULT_DELIVERY, folder };
  const id = tables.runs.insert({
    ...{ batchId: null, batchName: 'b', presetId: null, presetName: 'p', rule: DEFAULT_RULE },
    deliveries: [delivery, delivery].map((one) => ({ ...one, makesFolder: false, zip: false })),
    ...{ markId: 1, markVersion: 1, over: [] },
  });
  const items = Array.from({ length: PHOTOS * DELIVERIES }, (_, at) => ({
    number: Math.floor(at / DELIVERIES) + 1,
    delivery: (at % DELIVERIES) + 1,
    ...{ photoId: at, sourcePath: '/a.jpg', sourceName: 'a.jpg', capturedAt: null },
    ...{ width: 1, height: 1, adjustment: {}, own: null, over: null },
  }));
  tables.items.insertAll(id, items);
  return id;
}

const places = (items: readonly { number: number; delivery: number }[]): string[] =>
  items.map(({ number, delivery }) => `${number}.${delivery}`);
const idsOf = (photo: number): number[] =>
  tables.items
    .ofRun(runId)
    .filter(({ number }) => number === photo)
    .map(({ id }) => id);

it('those that wait come photo by photo, each with all that waits of it', () => {
  const [first] = idsOf(1);
  tables.items.takeUp(first);
  expect(places(tables.items.waiting(runId, 2))).toEqual(['1.2', '2.1', '2.2']);
  for (const id of idsOf(1)) tables.items.finish(id, 'written', '/out', null);
  expect(places(tables.items.waiting(runId, 1))).toEqual(['2.1', '2.2']);
  expect(places(tables.items.waiting(runId, 100))).toHaveLength(6);
});

it('the first that waits is found by an index, not by looking through the run', () => {
  const plan = db
    .prepare<[], { detail: string }>(
      `EXPLAIN QUERY PLAN SELECT DISTINCT number FROM run_items
       WHERE run_id = 1 AND status = 'waiting' ORDER BY number LIMIT 5`,
    )
    .all()
    .map(({ detail }) => detail)
    .join('; ');
  expect(plan).toContain('COVERING INDEX run_items_by_status');
  expect(plan).not.toContain('TEMP B-TREE');
});

it('what ended since a look is told from there on, and nothing twice', () => {
  expect(tables.items.lastChange(runId)).toBe(0);
  const [one, two] = idsOf(1);
  tables.items.finish(one, 'written', '/out', null);
  const seen = tables.items.lastChange(runId);
  tables.items.finish(two, 'failed', null, 'It is damaged.');
  expect(places(tables.items.changedSince(runId, seen))).toEqual(['1.2']);
  expect(tables.items.changedSince(runId, tables.items.lastChange(runId))).toEqual([]);
});

it('what begins anew or is given up is told, too', () => {
  const [one, two] = idsOf(1);
  tables.items.finish(one, 'failed', null, 'It is damaged.');
  tables.items.finish(two, 'written', '/out', null);
  let seen = tables.items.lastChange(runId);
  const since = (): string[] => {
    const found = places(tables.items.changedSince(runId, seen));
    seen = tables.items.lastChange(runId);
    return found;
  };
  tables.items.requeueFailed(runId);
  expect(since()).toEqual(['1.1']);
  tables.items.requeueDelivery(runId, 2);
  expect(since()).toEqual(['1.2']);
  tables.items.requeue(one);
  expect(since()).toEqual(['1.1']);
  tables.items.cancelWaiting(runId);
  expect(since()).toHaveLength(PHOTOS * DELIVERIES);
});

it('changes of another run are its own', () => {
  const other = newRun();
  const [one] = idsOf(1);
  tables.items.finish(one, 'written', '/out', null);
  expect(tables.items.lastChange(other)).toBe(0);
  expect(tables.items.changedSince(other, 0)).toEqual([]);
});

it('outputs of a database of before count as ended, though their change was not noted', () => {
  const [one] = idsOf(2);
  tables.items.finish(one, 'written', '/out', null);
  db.prepare('UPDATE run_items SET changed = 0').run();
  expect(places(tables.items.ended(runId))).toEqual(['2.1']);
});

it('photos that came to a batch since are those the run does not have', () => {
  const batchId = tables.batches.insert('b', null, []);
  const columns = db
    .prepare<[], { name: string; notnull: number }>(
      'SELECT name, "notnull" AS "notnull" FROM pragma_table_info(\'photos\') WHERE dflt_value IS NULL',
    )
    .all()
    .filter(({ notnull }) => notnull === 1)
    .map(({ name }) => name)
    .filter((name) => !['id', 'batch_id', 'origin'].includes(name));
  const insert = db.prepare(`
    INSERT INTO photos (id, batch_id, origin, ${columns.join()})
    VALUES (?, ?, 'copied', ${columns.map((name) => (name === 'light_cells' ? "x'01'" : '1')).join()})`);
  for (const id of [3, 20, 21]) insert.run(id, batchId);
  expect(tables.items.photosWithout(runId, batchId)).toEqual([20, 21]);
});
