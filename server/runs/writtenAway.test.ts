import { mkdirSync, mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import type { RunDocumentRow } from '../db/runDocuments.ts';
import type { Tables } from '../db/tables.ts';
import { AllowedFolders } from '../storage/allowedFolders.ts';
import { writtenAway } from './writtenAway.ts';

let folder: string;
let allowed: string[];
let outputs: { id: number; output: string }[];
let documents: Pick<RunDocumentRow, 'status' | 'output' | 'delivery'>[];
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-away-'));
  allowed = [folder];
  for (const name of ['a', 'b']) mkdirSync(join(folder, name));
  outputs = ['a/1.jpg', 'a/2.jpg', 'b/1.jpg'].map((name, at) => {
    writeFileSync(join(folder, name), 'photo');
    return { id: at + 1, output: join(folder, name) };
  });
  documents = [{ status: 'written', output: join(folder, 'a', 'sheets.pdf'), delivery: 2 }];
  writeFileSync(join(folder, 'a', 'sheets.pdf'), 'sheets');
});
afterEach(() => rmSync(folder, { recursive: true }));

const away = () =>
  writtenAway(
    { id: 1 },
    {
      items: { outputs: () => outputs },
      documents: { ofRun: () => documents },
    } as unknown as Tables,
    new AllowedFolders(() => allowed),
  );

it('is nothing while all files are where they were written', async () => {
  expect(await away()).toEqual({ outputs: [], documents: 0 });
});

it('is what was renamed, and all of a folder that is gone', async () => {
  renameSync(join(folder, 'a', '2.jpg'), join(folder, 'a', 'two.jpg'));
  rmSync(join(folder, 'b'), { recursive: true });
  expect(await away()).toEqual({ outputs: [2, 3], documents: 0 });
});

it('is a document that was deleted, and none that was never written', async () => {
  rmSync(join(folder, 'a', 'sheets.pdf'));
  documents.push({ status: 'failed', output: null, delivery: 3 });
  expect(await away()).toEqual({ outputs: [], documents: 1 });
});

it('is all of a folder that may not be read any more', async () => {
  allowed = [join(folder, 'a')];
  expect(await away()).toEqual({ outputs: [3], documents: 0 });
});

it('is each sheet that is a file of its own', async () => {
  for (const name of ['s1.jpg', 's2.jpg']) {
    documents.push({ status: 'written', output: join(folder, 'a', name), delivery: 3 });
  }
  expect(await away()).toEqual({ outputs: [], documents: 2 });
});
