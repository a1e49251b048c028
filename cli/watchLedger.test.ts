import {
  appendFileSync,
  mkdtempSync,
  readdirSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { WatchLedger, type LedgerFile } from './watchLedger.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-ledger-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const open = (inbox = '/in'): WatchLedger => new WatchLedger(folder, inbox);
const file = (name: string, part: Partial<LedgerFile> = {}): LedgerFile => ({
  ...{ name, bytes: 1, modifiedMs: 2, hash: 'h', number: 1 },
  ...part,
});

it('knows after a restart what was done', () => {
  const first = open();
  first.begin(file('a.jpg'));
  first.done('a.jpg');
  first.begin(file('b.jpg', { number: 2 }));
  first.close();
  const again = open();
  expect([again.isDone('a.jpg'), again.isDone('b.jpg'), again.isDone('c.jpg')]).toEqual([
    ...[true, false, false],
  ]);
  expect(again.get('a.jpg')).toEqual(file('a.jpg'));
  expect(['a.jpg', 'b.jpg', 'c.jpg'].map((name) => again.numberOf(name))).toEqual([1, 2, 3]);
  again.close();
  // Another folder's is another.
  const other = open('/other');
  expect(other.get('a.jpg')).toBeNull();
  other.close();
  expect(readdirSync(folder)).toHaveLength(2);
});

it('tells whether an output got its name before a crash', () => {
  const [temporary, output] = [join(folder, '.t.part'), join(folder, 'a.jpg')];
  writeFileSync(temporary, 'finished');
  const first = open();
  first.begin(file('a.jpg'));
  first.naming('a.jpg', 1, output, temporary);
  first.close();
  const before = open();
  expect(before.outputsOf('a.jpg').size).toBe(0);
  renameSync(temporary, output);
  expect([...before.outputsOf('a.jpg')]).toEqual([[1, output]]);
  // Taken up once more with the same content, it is still there; with other content it is not.
  before.begin(file('a.jpg', { modifiedMs: 3 }));
  expect(before.outputsOf('a.jpg').size).toBe(1);
  before.begin(file('a.jpg', { hash: 'other' }));
  expect(before.outputsOf('a.jpg').size).toBe(0);
  before.close();
});

it('holds the names that were given, and not those that a crash came before', () => {
  const output = (name: string): string => join(folder, `${name}-web`);
  const first = open();
  for (const name of ['done', 'edited', 'gone', 'placed', 'about', 'replacing']) {
    const temporary = join(folder, `.${name}.part`);
    writeFileSync(temporary, name);
    first.begin(file(name));
    first.naming(name, 0, output(name), temporary);
    if (['done', 'edited', 'placed'].includes(name)) renameSync(temporary, output(name));
    if (['done', 'edited', 'gone'].includes(name)) first.done(name);
  }
  rmSync(output('edited'));
  writeFileSync(join(folder, '.other'), 'saved anew by another program');
  renameSync(join(folder, '.other'), output('edited'));
  writeFileSync(output('replacing'), 'of an earlier day');
  first.close();
  const again = open();
  expect(again.namesGiven().sort()).toEqual(['done', 'edited', 'gone', 'placed'].map(output));
  again.close();
});

it('lives with a line that was cut short', () => {
  const first = open();
  first.begin(file('a.jpg'));
  first.done('a.jpg');
  first.close();
  const [name] = readdirSync(folder);
  appendFileSync(join(folder, name), '{"what":"begun","name":"b.j');
  const second = open();
  expect([second.isDone('a.jpg'), second.get('b.jpg')]).toEqual([true, null]);
  second.begin(file('c.jpg'));
  second.close();
  const third = open();
  expect(third.get('c.jpg')).not.toBeNull();
  third.close();
});
