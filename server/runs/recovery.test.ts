import { linkSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { DEFAULT_RECIPE } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase, type Db } from '../db/open.ts';
import { openTables, type Tables } from '../db/tables.ts';
import { recoverItems } from './recovery.ts';

/** Every moment between a finished temporary file and its final name, one by one. */

let folder: string;
let db: Db;
let tables: Tables;
let runId: number;
let itemId: number;
let temporary: string;
let output: string;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-recovery-'));
  db = openDatabase(join(folder, 'test.sqlite'));
  tables = openTables(db);
  const box = { x: 0, y: 0, width: 1, height: 1 };
  const markId = tables.marks.insert('m', {
    ...{ kind: 'svg', natural: box, ink: box, notes: [] },
    ...{ origin: { kind: 'file' }, box: null, hasPixels: false },
  });
  runId = tables.runs.insert({
    ...{ batchId: null, batchName: 'b', deliveryId: null, deliveryName: 'd', presetName: 'p' },
    ...{ recipe: DEFAULT_RECIPE, rule: DEFAULT_RULE, markId, markVersion: 1, folder },
  });
  db.pragma('foreign_keys = OFF');
  tables.items.insertAll(runId, [
    {
      number: 1,
      photoId: 1,
      sourcePath: '/a.jpg',
      sourceName: 'a.jpg',
      capturedAt: null,
      width: 9,
      height: 9,
      adjustment: {},
      own: null,
    },
  ]);
  itemId = tables.items.takeNext(runId)?.id ?? 0;
  temporary = join(folder, 'temporary.part');
  output = join(folder, 'a-web.jpg');
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

const inodeOf = (path: string): string => String(statSync(path, { bigint: true }).ino);
const recovered = () => {
  recoverItems(tables, runId, () => temporary);
  return tables.items.get(itemId)?.status;
};
const outputs = () => readdirSync(folder).filter((name) => !name.includes('sqlite'));

describe('a server killed', () => {
  it('while a photo was worked on: half a temporary file goes, the photo is done again', () => {
    writeFileSync(temporary, 'half');
    expect(recovered()).toBe('waiting');
    expect(outputs()).toEqual([]);
  });

  it('before the name was given: done again', () => {
    writeFileSync(temporary, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(temporary));
    expect(recovered()).toBe('waiting');
    expect(outputs()).toEqual([]);
  });

  it('between link and unlink: written, and the second name goes', () => {
    writeFileSync(temporary, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(temporary));
    linkSync(temporary, output);
    expect(recovered()).toBe('written');
    expect(outputs()).toEqual(['a-web.jpg']);
  });

  it('after the name was given: written, not made twice', () => {
    writeFileSync(output, 'whole');
    tables.items.setNaming(itemId, output, inodeOf(output));
    expect(recovered()).toBe('written');
  });

  it('while somebody else’s file has the name: theirs stays, the photo is done again', () => {
    writeFileSync(temporary, 'whole');
    writeFileSync(output, 'theirs');
    tables.items.setNaming(itemId, output, inodeOf(temporary));
    expect(recovered()).toBe('waiting');
    expect(outputs()).toEqual(['a-web.jpg']);
  });
});
