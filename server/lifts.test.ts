import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { DEFAULT_LIFT } from '#core/contract/lift';
import { DEFAULT_RULE } from '#core/contract/preset';
import { failure, success, type Result } from '#core/result';
import type { MarkRow } from './db/markRows.ts';
import { openDatabase, type Db } from './db/open.ts';
import type { NewScan, ScanRow } from './db/scans.ts';
import { openTables, type Tables } from './db/tables.ts';
import type { LiftedFile } from './imaging/lift/liftFile.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import { Lifts } from './lifts.ts';
import { Marks } from './marks.ts';
import { Scans } from './scans.ts';
import { dataPaths, type DataPaths } from './storage/dataPaths.ts';

/** Lifts with an imaging process that answers when it is told to. */

const INK = { x: 0, y: 0, width: 900, height: 300 };
const LIFTED: LiftedFile = {
  ...{ png: new Uint8Array([1]), svg: '<svg/>', keepsOutlines: true, inkBox: INK },
  ...{ evenness: 1, specksRemoved: 0, cutsInk: false },
};
const PHOTO: NewScan = {
  ...{ name: 'a.jpg', ending: '.jpg', format: 'jpeg', pages: 1, width: 4_000, height: 3_000 },
};
const SMALL: NewScan = { ...PHOTO, width: 400, height: 300 };

let folder: string;
let db: Db;
let tables: Tables;
let paths: DataPaths;
let lifts: Lifts;
let told: number[];
let answers: ((result: Result<LiftedFile>) => void)[];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-lifts-'));
  paths = dataPaths(folder);
  paths.prepare();
  db = openDatabase(paths.database, folder);
  tables = openTables(db, folder);
  told = [];
  answers = [];
  lifts = opened();
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

/** As the next server opens them. */
function opened(): Lifts {
  const imaging = {
    lift: () => new Promise((done) => answers.push(done)),
    importArtwork: () =>
      Promise.resolve(
        success({
          artwork: { kind: 'svg', svg: '<svg/>', natural: INK, ink: INK },
          ...{ notes: [], origin: { kind: 'file' }, name: null, box: null },
        }),
      ),
  } as unknown as Imaging;
  const noDesigns = (): never => {
    throw new Error('no designs here');
  };
  const marks = new Marks(tables, paths, imaging, noDesigns);
  return new Lifts({
    ...{ tables, marks, imaging, scans: new Scans(tables, paths, imaging) },
    ...{ log: pino({ level: 'silent' }), tell: (id) => told.push(id) },
  });
}

function scanOf(scan: NewScan): ScanRow {
  const row = tables.scans.get(tables.scans.insert(scan));
  if (!row) throw new Error('no scan');
  return row;
}

const wish = (markId: number | null = null) => ({
  ...{ page: 1, settings: DEFAULT_LIFT, name: 'Signature', markId },
});

async function keptLater(markId: number | null = null): Promise<number> {
  const kept = await lifts.keep(scanOf(PHOTO), wish(markId));
  if (!kept.ok) throw new Error(kept.reason);
  return kept.value;
}

function markOf(id: number): MarkRow {
  const mark = tables.marks.get(id);
  if (!mark) throw new Error(`no mark ${id}`);
  return mark;
}

async function answer(result: Result<LiftedFile>): Promise<void> {
  while (answers.length === 0) await delay(1);
  answers.shift()?.(result);
}

describe('a lift that takes long', () => {
  it('is listed at once, and whoever needs its artwork waits for it', async () => {
    const id = await keptLater();
    expect(markOf(id)).toMatchObject({ version: 1, isPending: true, ink: { width: 4_000 } });
    expect(existsSync(paths.artwork(id, 1, 'svg'))).toBe(false);
    let isSettled = false;
    const waiting = lifts.settled(id).then((result) => {
      isSettled = true;
      return result;
    });
    await delay(20);
    expect(isSettled).toBe(false);
    await answer(success(LIFTED));
    expect(await waiting).toEqual(success(undefined));
    expect(markOf(id)).toMatchObject({ version: 1, isPending: false, ink: INK, hasPixels: true });
    for (const kind of ['svg', 'png'] as const) {
      expect(existsSync(paths.artwork(id, 1, kind))).toBe(true);
    }
    expect(told).toEqual([id]);
  });

  it('and fails says why, is not tried again and again, but by the next server', async () => {
    const id = await keptLater();
    const waiting = lifts.settled(id);
    await answer(failure('The scan took too long.'));
    expect((await waiting).ok).toBe(false);
    await delay(1);
    expect(markOf(id)).toMatchObject({ isPending: true, notes: ['The scan took too long.'] });
    expect(told).toEqual([id]);
    expect(await lifts.settled(id)).toEqual(failure('Signature: The scan took too long.'));
    expect(answers).toHaveLength(0);

    lifts = opened();
    const recovered = lifts.recover();
    await answer(success(LIFTED));
    await recovered;
    expect(markOf(id)).toMatchObject({ isPending: false, ink: INK, notes: [] });
  });

  it('that fails for a mark which was there leaves it as it was, with a word', async () => {
    const id = await keptLater();
    await answer(success(LIFTED));
    await lifts.settled(id);
    await keptLater(id);
    expect(markOf(id)).toMatchObject({ version: 2, isPending: true });
    await answer(failure('No memory.'));
    await lifts.settled(id);
    await delay(1);
    expect(markOf(id)).toMatchObject({ version: 1, isPending: false });
    expect(markOf(id).notes.join()).toContain(
      'could not be lifted again, so it is as before. No m',
    );
  });

  it('does not take the place of what came after it', async () => {
    const id = await keptLater();
    const box = { x: 0, y: 0, width: 5, height: 5 };
    tables.marks.addVersion(id, { ...markOf(id), ink: box, isPending: false });
    await answer(success(LIFTED));
    await lifts.settled(id);
    expect(markOf(id)).toMatchObject({ version: 2, ink: box, isPending: false });
  });

  it('and is asked for twice ends with what was asked last', async () => {
    const id = await keptLater();
    await keptLater(id);
    await answer(success(LIFTED));
    await answer(success({ ...LIFTED, keepsOutlines: false }));
    await lifts.settled(id);
    expect(markOf(id)).toMatchObject({ version: 2, isPending: false, hasPixels: false });
  });

  it('goes on with the next server where this one was closed', async () => {
    const id = await keptLater();
    lifts.close();
    await answer(failure('It was not finished, since Light Crest is closing.'));
    await delay(5);
    expect(markOf(id)).toMatchObject({ isPending: true, notes: [] });
    lifts = opened();
    const recovered = lifts.recover();
    await answer(success(LIFTED));
    await recovered;
    expect(markOf(id).isPending).toBe(false);
  });

  it('is begun once by many who ask for it at the same moment after a restart', async () => {
    const [first, second] = [await keptLater(), await keptLater()];
    lifts.close();
    answers = [];
    lifts = opened();
    const asking = [first, second, first, second, first].map((id) => lifts.settled(id));
    await answer(success(LIFTED));
    await answer(success(LIFTED));
    expect(await Promise.all(asking)).toEqual(asking.map(() => success(undefined)));
    expect(answers).toHaveLength(0);
    expect(markOf(second).isPending).toBe(false);
  });

  it('twice for one mark, and fails both times, leaves what was finished before', async () => {
    const id = await keptLater();
    await answer(success(LIFTED));
    await lifts.settled(id);
    await keptLater(id);
    await keptLater(id);
    await answer(failure('No memory.'));
    await answer(failure('No time.'));
    await delay(20);
    expect(markOf(id)).toMatchObject({ version: 1, isPending: false });
    expect(markOf(id).notes.join()).toContain('No time.');
  });

  it('does not make a small scan wait for it', async () => {
    await keptLater();
    const small = await lifts.keep(scanOf(SMALL), wish());
    expect(small.ok && markOf(small.value).isPending).toBe(true);
  });

  it('is no more when its mark was deleted meanwhile', async () => {
    const id = await keptLater();
    tables.marks.remove(id);
    await answer(success(LIFTED));
    expect(await lifts.settled(id)).toEqual(success(undefined));
    expect(existsSync(paths.artwork(id, 1, 'svg'))).toBe(false);
  });
});

describe('a lift that fails before it is answered', () => {
  it('was never a mark', async () => {
    const keeping = lifts.keep(scanOf(SMALL), wish());
    await answer(failure('No ink was found on the sheet.'));
    expect(await keeping).toEqual(failure('No ink was found on the sheet.'));
    expect(tables.marks.all()).toEqual([]);
  });

  it('stays, and says why, where a preset took it up meanwhile', async () => {
    const keeping = lifts.keep(scanOf(SMALL), wish());
    const [{ id }] = tables.marks.all();
    tables.presets.insert('Low', id, DEFAULT_RULE);
    await answer(failure('No ink was found on the sheet.'));
    expect((await keeping).ok).toBe(false);
    expect(markOf(id)).toMatchObject({ notes: ['No ink was found on the sheet.'] });
  });

  it('leaves the mark that was to be lifted again', async () => {
    const id = await keptLater();
    await answer(success(LIFTED));
    await lifts.settled(id);
    const keeping = lifts.keep(scanOf(SMALL), wish(id));
    await answer(failure('No ink was found on the sheet.'));
    expect((await keeping).ok).toBe(false);
    expect(markOf(id)).toMatchObject({ version: 1, isPending: false, notes: [] });
  });
});
