import { linkSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase, type Db } from '../db/open.ts';
import { openTables, type Tables } from '../db/tables.ts';
import { recoverRun } from './recovery.ts';
import { temporaryPath } from './runTemporaries.ts';

/** Every moment between a finished temporary file and its final name, one by one. */

const NOWHERE = { preparedOf: () => '/elsewhere' };
let folder: string;
let db: Db;
let tables: Tables;
let runId: number;
let itemId: number;
let temporary: string;
let output: string;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-recovery-'));
  db = openDatabase(join(folder, 'test.sqlite'), '/elsewhere');
  tables = openTables(db, '/elsewhere');
  const box = { x: 0, y: 0, width: 1, height: 1 };
  const markId = tables.marks.insert('m', {
    ...{ kind: 'svg', natural: box, ink: box, notes: [] },
    ...{ origin: { kind: 'file' }, box: null, hasPixels: false, isPending: false },
  });
  runId = tables.runs.insert({
    ...{ batchId: null, batchName: 'b' },
    ...{ presetId: null, presetName: 'p' },
    deliveries: [
      {
        deliveryId: null,
        name: 'd',
        rule: DEFAULT_DELIVERY,
        folder,
        makesFolder: false,
        zip: false,
      },
    ],
    ...{ rule: DEFAULT_RULE, markId, markVersion: 1, over: [] },
  });
  db.pragma('foreign_keys = OFF');
  tables.items.insertAll(runId, [
    {
      number: 1,
      delivery: 1,
      photoId: 1,
      sourcePath: '/a.jpg',
      sourceName: 'a.jpg',
      capturedAt: null,
      width: 9,
      height: 9,
      adjustment: {},
      over: null,
      own: null,
    },
  ]);
  itemId = tables.items.waiting(runId, 1)[0].id;
  tables.items.takeUp(itemId);
  temporary = temporaryPath(runOf(), { id: itemId, delivery: 1 }, NOWHERE);
  output = join(folder, 'a-web.jpg');
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

const inodeOf = (path: string): string => String(statSync(path, { bigint: true }).ino);
const runOf = () => {
  const run = tables.runs.get(runId);
  if (!run) throw new Error('no run');
  return run;
};
const recovered = async () => {
  expect(await recoverRun(tables, runOf())).toBe(null);
  return tables.items.get(itemId)?.status;
};
const outputs = () => readdirSync(folder).filter((name) => !name.includes('sqlite'));

describe('a server killed', () => {
  it('while a photo was worked on: half a temporary file goes, the photo is done again', async () => {
    writeFileSync(temporary, 'half');
    expect(await recovered()).toBe('waiting');
    expect(outputs()).toEqual([]);
  });

  it('before the name was given: done again', async () => {
    writeFileSync(temporary, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(temporary), temporary);
    expect(await recovered()).toBe('waiting');
    expect(outputs()).toEqual([]);
  });

  it('between link and unlink: written, and the second name goes', async () => {
    writeFileSync(temporary, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(temporary), temporary);
    linkSync(temporary, output);
    expect(await recovered()).toBe('written');
    expect(outputs()).toEqual(['a-web.jpg']);
  });

  it('after the name was given: written, not made twice', async () => {
    writeFileSync(output, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(output), temporary);
    expect(await recovered()).toBe('written');
  });

  it('while somebody else’s file has the name: theirs stays, the photo is done again', async () => {
    writeFileSync(temporary, 'whole');
    writeFileSync(output, 'theirs');
    tables.items.setNaming(itemId, output, inodeOf(temporary), temporary);
    expect(await recovered()).toBe('waiting');
    expect(outputs()).toEqual(['a-web.jpg']);
  });

  it('on a disk that makes up inodes: known by its length, and by its temporary name being gone', async () => {
    writeFileSync(output, 'whole');
    const result = { frame: { width: 1, height: 1 }, placement: null as never, readability: null };
    const measures = { result, note: null, bytesBefore: 1, durationMs: 1 };
    tables.items.setMeasures(itemId, { ...measures, bytesAfter: 'whole'.length });
    tables.items.setNaming(itemId, output, '999999', temporary);
    expect(await recovered()).toBe('written');
    tables.items.setMeasures(itemId, { ...measures, bytesAfter: 99 });
    tables.items.setNaming(itemId, output, '999999', temporary);
    expect(await recovered()).toBe('waiting');
  });

  it('after the run was cancelled: what was half done is cancelled, and leaves nothing', async () => {
    writeFileSync(temporary, 'half');
    tables.runs.setState(runId, 'cancelled');
    expect(await recovered()).toBe('cancelled');
    expect(outputs()).toEqual([]);
  });

  it('clears up after tries that are not known any more, and nothing of other runs', async () => {
    writeFileSync(temporaryPath(runOf(), { id: itemId, delivery: 1 }, NOWHERE), 'half');
    writeFileSync(join(folder, '.light-crest-1-1-1-abcdef.part'), 'of another');
    expect(await recovered()).toBe('waiting');
    expect(outputs()).toEqual(['.light-crest-1-1-1-abcdef.part']);
  });

  it('whose folder went with all that was in it: done again', async () => {
    rmSync(join(folder, 'inner'), { recursive: true, force: true });
    db.prepare('UPDATE run_deliveries SET folder = ?').run(join(folder, 'inner'));
    expect(await recovered()).toBe('waiting');
  });

  it('whose folder cannot be looked at: nothing is decided, and the reason is told', async () => {
    // A name longer than any disk takes stands for a disk that answers with an error.
    db.prepare('UPDATE run_deliveries SET folder = ?').run(join(folder, 'x'.repeat(300)));
    expect(await recoverRun(tables, runOf())).toContain('too long');
    expect(tables.items.get(itemId)?.status).toBe('working');
  });
});
