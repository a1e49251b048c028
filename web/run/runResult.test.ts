import { expect, it } from 'vitest';
import type { RunItemView, RunView } from '#core/contract/http';
import { awayText, runResult, toldOf } from './runResult.ts';

const run = (part: Partial<RunView> = {}) => ({ written: 2, documents: [], ...part }) as RunView;
const item = (part: Partial<RunItemView> = {}) =>
  ({
    ...{ status: 'written', outputName: 'a.jpg', note: null, readBack: null, error: null },
    ...part,
  }) as RunItemView;
const good = { problem: null } as RunItemView['readBack'];
const bad = { problem: 'It is not whole.' } as RunItemView['readBack'];

it('counts files, and says what was verified only where something was opened again', () => {
  expect(runResult(run(), [item(), item()])).toMatchObject({
    ...{ files: 2, verified: '', failures: 'Nothing failed', isOfAll: false },
  });
  const verified = (...readBack: RunItemView['readBack'][]) =>
    runResult(
      run(),
      readBack.map((read) => item({ readBack: read })),
    );
  expect(verified(good, good).verified).toBe('all verified');
  expect(verified(good, null).verified).toBe('1 verified');
  expect(verified(good, bad)).toMatchObject({ verified: '1 verified' });
  expect(verified(good, bad).doubtful).toHaveLength(1);
});

it('names what failed, of photos before documents', () => {
  const failed = item({ status: 'failed', error: 'No room.' });
  expect(runResult(run(), [item(), failed]).failures).toBe('1 file failed');
  const documents = [{ written: 0, error: 'No room.' }] as unknown as RunView['documents'];
  expect(runResult(run({ documents }), [item()])).toMatchObject({
    ...{ failures: 'Not put together', isDocumentFailed: true },
  });
  expect(runResult(run({ documents }), [failed]).failures).toBe('1 file failed');
});

it('tells each sentence once, after the names of its photos', () => {
  const failed = (name: string, error: string | null) => item({ sourceName: name, error });
  const told = (...items: RunItemView[]) => toldOf(items, ({ error }) => error);
  expect(told()).toEqual([]);
  expect(told(failed('a.jpg', 'The disk is full.'), failed('b.jpg', 'b.jpg is damaged.'))).toEqual([
    'a.jpg: The disk is full.',
    'b.jpg is damaged.',
  ]);
  const many = ['a', 'b', 'c', 'd', 'e'].map((name) => failed(`${name}.jpg`, 'The mark is gone.'));
  expect(told(...many.slice(0, 3))).toEqual(['a.jpg, b.jpg, c.jpg: The mark is gone.']);
  expect(told(...many)).toEqual(['a.jpg, b.jpg, c.jpg and 2 more: The mark is gone.']);
  expect(told(failed('a.jpg', null))).toEqual(['a.jpg: It failed.']);
});

it('counts documents in place of photos that were made ready for them', () => {
  const documents = [{ written: 3, error: null }] as unknown as RunView['documents'];
  const ready = item({ outputName: null });
  const of = runResult(run({ documents, written: 9 }), [ready, ready, item({ note: 'Turned.' })]);
  expect(of).toMatchObject({ files: 4, isOfAll: true });
  expect([of.written.length, of.noted.length]).toEqual([1, 1]);
});

it.each([
  [1, 1, 'The file is not where'],
  [3, 3, 'None of the files is where'],
  [1, 3, '1 of 3 files is not where'],
  [2, 3, '2 of 3 files are not where'],
])('says that %i of %i files are not there any more', (away, files, begins) => {
  expect(awayText(away, files)).toMatch(new RegExp(`^${begins} it was written: moved`));
});
