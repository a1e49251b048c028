import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { RunDocumentsView, RunItemView, RunView } from '#core/contract/http';
import { printDocuments, printItem } from './runReport.ts';

const RUN = {
  deliveries: [
    { name: 'Web', folder: '/out', kind: 'files' },
    { name: 'Proofs', folder: '/out', kind: 'sheet' },
  ],
} as unknown as RunView;
const WRITTEN = { sourceName: 'a.jpg', delivery: 1, status: 'written', outputName: 'a-web.jpg' };
const MADE = {
  delivery: 2,
  written: 1,
  skipped: 0,
  outputName: 'Shore.pdf',
  bytes: 9,
  error: null,
};

let out: string[];
let err: string[];
beforeEach(() => {
  out = [];
  err = [];
  const into = (lines: string[]) => (text: string | Uint8Array) => lines.push(String(text)) > 0;
  vi.spyOn(process.stdout, 'write').mockImplementation(into(out));
  vi.spyOn(process.stderr, 'write').mockImplementation(into(err));
});
afterEach(() => {
  vi.restoreAllMocks();
});

const item = (part: object) =>
  ({ ...WRITTEN, error: null, readBack: null, ...part }) as unknown as RunItemView;
const documents = (part: object): RunDocumentsView => ({ ...MADE, ...part });

it('a photo that became a file has its path, and what reading it back found', () => {
  printItem(item({ readBack: { problem: 'The mark is not in it.' } }), RUN, true);
  expect(JSON.parse(out[0])).toEqual({
    ...{ source: 'a.jpg', delivery: 'Web', output: '/out/a-web.jpg' },
    ...{ status: 'written', error: null, verified: false },
  });
  expect(err).toEqual(['light-crest: a.jpg: The mark is not in it.\n']);
});

it('a photo whose file was there already is told as skipped', () => {
  printItem(item({ status: 'skipped' }), RUN, false);
  expect([out, err]).toEqual([
    ['/out/a-web.jpg\n'],
    ['light-crest: a.jpg: skipped, /out/a-web.jpg exists.\n'],
  ]);
});

it('a photo that is part of a document is told only where it failed', () => {
  printItem(item({ delivery: 2, outputName: null }), RUN, true);
  expect(out).toEqual([]);
  const failed = { delivery: 2, outputName: null, status: 'failed', error: 'It is damaged.' };
  printItem(item(failed), RUN, true);
  expect(JSON.parse(out[0])).toMatchObject({ source: 'a.jpg', status: 'failed' });
  expect(err).toEqual(['light-crest: a.jpg: It is damaged.\n']);
});

it('a document has its path, or why there is none', () => {
  printDocuments(documents({}), RUN, false);
  expect([out, err]).toEqual([['/out/Shore.pdf\n'], []]);
  printDocuments(documents({ written: 0, outputName: null, error: 'No room.' }), RUN, false);
  expect([out.length, err]).toEqual([1, ['light-crest: Proofs: No room.\n']]);
});

it.each([
  [{}, 'written'],
  [{ written: 0, skipped: 1, outputName: null }, 'skipped'],
  [{ written: 0, outputName: null }, 'cancelled'],
  [{ written: 0, outputName: null, error: 'No room.' }, 'failed'],
  // Some of its pictures have their names, another has none.
  [{ written: 2, error: 'No room.' }, 'failed'],
])('documents of which is known %j are %s', (part, status) => {
  printDocuments(documents(part), RUN, true);
  expect(JSON.parse(out[0])).toMatchObject({ source: null, delivery: 'Proofs', status });
});

it('says of several files how many they are', () => {
  printDocuments(documents({ written: 3, outputName: 'Shore 1.jpg' }), RUN, false);
  expect([out, err]).toEqual([
    ['/out/Shore 1.jpg\n'],
    ['light-crest: Proofs: 3 files, Shore 1.jpg the first.\n'],
  ]);
});
