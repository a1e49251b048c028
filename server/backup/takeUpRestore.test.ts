import type * as FileSystem from 'node:fs';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { STAGED_DATA, STAGING_PREFIX, takeUpRestore, WAITING_FOLDER } from './takeUpRestore.ts';

/** Renames that are done before the process is killed. */
const left = vi.hoisted(() => ({ renames: Infinity }));
vi.mock('node:fs', async (original) => {
  const fs = await original<typeof FileSystem>();
  const renameSync: typeof fs.renameSync = (from, to) => {
    if (left.renames-- <= 0) throw new Error('killed');
    fs.renameSync(from, to);
  };
  return { ...fs, renameSync };
});

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-restore-'));
  left.renames = Infinity;
});
afterEach(() => rmSync(folder, { recursive: true }));

function lay(files: Record<string, string>, at = folder): void {
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(dirname(join(at, name)), { recursive: true });
    writeFileSync(join(at, name), text);
  }
}

const OLD = {
  ...{ 'light-crest.sqlite': 'old rows', 'light-crest.sqlite-wal': 'old log' },
  ...{ 'photos/1.jpg': 'old photo', 'marks/1-1.svg': 'old mark', 'exports/a/b.jpg': 'old file' },
};
const NEW = {
  ...{ 'light-crest.sqlite': 'new rows', 'photos/7.jpg': 'new photo', 'fonts/x.woff2': 'font' },
};

function layBoth(): void {
  lay({ ...OLD, 'lock.sqlite': 'lock', address: 'http://127.0.0.1:1' });
  lay(NEW, join(folder, WAITING_FOLDER, STAGED_DATA));
}

const keptBy = (taken: ReturnType<typeof takeUpRestore>): string | null => taken?.before ?? null;

function expectRestored(before: string | null): void {
  if (before === null) throw new Error('Expected the folder with what was there.');
  for (const [name, text] of Object.entries(NEW)) {
    expect(readFileSync(join(folder, name), 'utf8')).toBe(text);
  }
  for (const [name, text] of Object.entries(OLD)) {
    expect(readFileSync(join(before, name), 'utf8')).toBe(text);
    if (!(name in NEW)) expect(existsSync(join(folder, name))).toBe(false);
  }
  expect(readdirSync(folder)).toContain('lock.sqlite');
  expect(existsSync(join(folder, WAITING_FOLDER))).toBe(false);
}

it('puts a backup in the place of what is there, and keeps that', () => {
  layBoth();
  expectRestored(keptBy(takeUpRestore(folder)));
  expect(takeUpRestore(folder)).toBeNull();
});

it('keeps nothing where nothing was there', () => {
  lay(NEW, join(folder, WAITING_FOLDER, STAGED_DATA));
  expect(takeUpRestore(folder)).toEqual({ before: null });
  expect(readdirSync(folder).sort()).toEqual(['fonts', 'light-crest.sqlite', 'photos']);
});

it('goes on where it was killed, after however many steps', () => {
  let killed = 0;
  for (let isKilled = true, steps = 0; isKilled; steps++) {
    layBoth();
    left.renames = steps;
    let before: string | null = null;
    isKilled = false;
    // Killed twice, the second time a step further on, then left alone.
    for (const more of [0, 1, Infinity]) {
      if (more > 0) left.renames = more;
      try {
        before = keptBy(takeUpRestore(folder)) ?? before;
        break;
      } catch {
        isKilled = true;
      }
    }
    if (isKilled) killed++;
    expectRestored(before);
    for (const name of readdirSync(folder)) rmSync(join(folder, name), { recursive: true });
  }
  // Three folders, the database with its log, three of the backup, and the plan twice.
  expect(killed).toBeGreaterThanOrEqual(9);
});

it('has nothing to do where nothing waits, and does not take half of an unpacking', () => {
  lay(OLD);
  lay(NEW, join(folder, `${STAGING_PREFIX}1`, STAGED_DATA));
  expect(takeUpRestore(folder)).toBeNull();
  expect(readFileSync(join(folder, 'photos/1.jpg'), 'utf8')).toBe('old photo');
  // One that is just being made stays; one of before yesterday is a leftover.
  expect(readdirSync(folder)).toContain(`${STAGING_PREFIX}1`);
  const longAgo = new Date(Date.now() - 3 * 24 * 3_600_000);
  utimesSync(join(folder, `${STAGING_PREFIX}1`), longAgo, longAgo);
  expect(takeUpRestore(folder)).toBeNull();
  expect(readdirSync(folder)).not.toContain(`${STAGING_PREFIX}1`);
});

it('keeps what was there under a name of its own each time', () => {
  layBoth();
  const first = keptBy(takeUpRestore(folder));
  layBoth();
  const second = keptBy(takeUpRestore(folder));
  expect(first).not.toBe(second);
  expect(existsSync(String(first))).toBe(true);
});
