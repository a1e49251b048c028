import { mkdirSync, mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { success } from '#core/result';
import { openDatabase, type Db } from '../db/open.ts';
import { openTables, type Tables } from '../db/tables.ts';
import { FolderImports } from './folderImports.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

/** Folders read with an intake that only waits: what is clicked, and breaks, while one is looked at. */

let folder: string;
let photos: string;
let db: Db;
let tables: Tables;
let imports: FolderImports;
let batchId: number;
let addInPlace: ReturnType<typeof vi.fn>;

const state = () => imports.newest(batchId)?.state;

function open(): FolderImports {
  return new FolderImports({
    ...{ tables, atOnce: 2, log: pino({ level: 'silent' }), tell: () => undefined },
    intake: { addInPlace } as never,
    // A disk that answers after a while.
    allowed: { resolve: (path: string) => delay(30).then(() => success(path)) } as never,
  });
}

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-imports-'));
  photos = join(folder, 'photos');
  mkdirSync(photos);
  for (let index = 0; index < 4; index++) writeFileSync(join(photos, `${index}.jpg`), 'photo');
  db = openDatabase(join(folder, 'test.sqlite'), '/elsewhere');
  tables = openTables(db, '/elsewhere');
  batchId = tables.batches.insert('b', null, []);
  addInPlace = vi.fn(() => delay(5).then(() => success({ photoId: 1, isAlready: false })));
  // Left by an earlier server, and its disk was away.
  tables.imports.insert(batchId, photos, ['0.jpg', '1.jpg', '2.jpg', '3.jpg']);
  renameSync(photos, `${photos} away`);
  imports = open();
  await imports.recover();
  expect(state()).toBe('paused');
  renameSync(`${photos} away`, photos);
});
afterEach(() => {
  imports.close();
  db.close();
  rmSync(folder, { recursive: true });
});

describe('an import that waits for its disk', () => {
  it('stays cancelled where it was cancelled while the disk was looked at', async () => {
    const going = imports.resume(batchId);
    await imports.cancel(batchId);
    await going;
    await delay(50);
    expect(state()).toBe('cancelled');
    expect(addInPlace).not.toHaveBeenCalled();
  });

  it('reads each photo once, however often it is gone on with', async () => {
    await Promise.all([1, 2, 3].map(() => imports.resume(batchId)));
    await eventually(() => expect(state()).toBe('done'));
    expect(addInPlace).toHaveBeenCalledTimes(4);
  });

  it('does nothing more once its batch is deleted', async () => {
    const going = imports.resume(batchId);
    tables.batches.remove(batchId);
    await going;
    await delay(50);
    expect(addInPlace).not.toHaveBeenCalled();
  });
});

it('goes on when the database can be written again, however long that takes', async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  /** Timers of the code are run ahead; the disk and the intake take their own time. */
  const later = async (): Promise<void> => {
    await delay(100);
    await vi.advanceTimersByTimeAsync(6_000);
    await delay(100);
  };
  /** However slow the machine is that this is tried on. */
  const until = async (holds: () => boolean): Promise<void> => {
    for (let tries = 0; tries < 100 && !holds(); tries++) await later();
  };
  try {
    let isFull = true;
    const { finish, setState } = tables.imports;
    const full = (): void => {
      if (isFull) throw new Error('database or disk is full');
    };
    const writing = Object.assign(tables.imports, {
      finish: (...values: Parameters<typeof finish>) => (full(), finish(...values)),
    });
    await imports.resume(batchId);
    writing.setState = (...values) => (full(), setState(...values));
    await until(() => imports.newest(batchId)?.problem?.includes('full') === true);
    // Several more times, since it must not give up either.
    for (let tries = 0; tries < 3; tries++) await later();
    // Not even that it waits can be written down, and it is told all the same.
    const { state: shown, problem } = imports.newest(batchId) ?? {};
    expect([shown, problem]).toEqual(['paused', expect.stringMatching(/full/)]);
    expect(tables.imports.newestOf(batchId)?.state).toBe('reading');
    isFull = false;
    await until(() => state() === 'done');
    expect(state()).toBe('done');
    expect(imports.newest(batchId)?.problem).toBeNull();
  } finally {
    vi.useRealTimers();
  }
});
