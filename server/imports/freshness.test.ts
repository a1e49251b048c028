import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { failure, success } from '#core/result';
import type { PhotoRow } from '../db/photos.ts';
import { Freshness } from './freshness.ts';

/** Photos in place that are looked at again, over a table of one photo. */

let folder: string;
let photo: PhotoRow;
let freshness: Freshness;
const tell = vi.fn();
const readAgain = vi.fn();

beforeEach(() => {
  tell.mockReset();
  readAgain.mockReset();
  folder = mkdtempSync(join(tmpdir(), 'light-crest-fresh-'));
  const path = join(folder, 'a.jpg');
  writeFileSync(path, 'as it came in');
  const { size: bytes, mtimeMs } = statSync(path);
  const row = { id: 1, path, origin: 'in-place', bytes, modifiedMs: Math.floor(mtimeMs) };
  photo = { ...row, note: null } as PhotoRow;
  const tables = {
    photos: {
      ofBatch: () => [photo],
      setNote: (_id: number, note: string | null) => (photo = { ...photo, note }),
    },
  };
  freshness = new Freshness({
    ...{ tables: tables as never, log: pino({ level: 'silent' }), tell },
    intake: { readAgain } as never,
  });
});
afterEach(() => rmSync(folder, { recursive: true }));

/** However short it is since the last time. */
async function look(): Promise<void> {
  await (freshness as unknown as { look: (batchId: number) => Promise<void> }).look(1);
}

describe('a photo in place', () => {
  it('that is as it was is not told', async () => {
    await look();
    expect(readAgain).not.toHaveBeenCalled();
    expect(tell).not.toHaveBeenCalled();
  });

  it('that is gone is told once, and once that it is back', async () => {
    rmSync(photo.path);
    await look();
    await look();
    expect(photo.note).toContain('not where it was');
    expect(tell).toHaveBeenCalledOnce();
    writeFileSync(photo.path, 'as it came in');
    photo = { ...photo, modifiedMs: Number(statSync(photo.path, { bigint: true }).mtimeMs) };
    await look();
    expect(photo.note).toBe(null);
    expect(tell).toHaveBeenCalledTimes(2);
  });

  it('that has changed and cannot be read any more is told once, however often it is opened', async () => {
    readAgain.mockResolvedValue(failure('a.jpg is no photo.'));
    writeFileSync(photo.path, 'other');
    await look();
    await look();
    await look();
    expect(photo.note).toBe('a.jpg is no photo.');
    expect(tell).toHaveBeenCalledOnce();
  });

  it('that has changed and was read is told', async () => {
    readAgain.mockResolvedValue(success(photo));
    writeFileSync(photo.path, 'other');
    await look();
    expect(tell).toHaveBeenCalledExactlyOnceWith(1);
  });

  it('is read once where it is asked for twice at a time', async () => {
    readAgain.mockImplementation(() => delay(50).then(() => success(photo)));
    writeFileSync(photo.path, 'other');
    await Promise.all([freshness.current(photo), freshness.current(photo)]);
    expect(readAgain).toHaveBeenCalledOnce();
  });

  it('changes nothing once the server ends', async () => {
    readAgain.mockResolvedValue(failure('a.jpg is no photo.'));
    writeFileSync(photo.path, 'other');
    freshness.close();
    await look();
    expect(photo.note).toBe(null);
    expect(tell).not.toHaveBeenCalled();
  });
});
