import {
  linkSync,
  mkdirSync,
  mkdtempSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { isTaken, SourceGuard } from './sourceGuard.ts';

let folder: string;
let source: string;
let guard: SourceGuard;
beforeEach(async () => {
  folder = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-guard-')));
  source = join(folder, 'a.jpg');
  writeFileSync(source, 'a');
  guard = new SourceGuard();
  await guard.add(source);
});
afterEach(() => rmSync(folder, { recursive: true }));

it('knows a source by its path, and through links of both kinds', async () => {
  linkSync(source, join(folder, 'hard.jpg'));
  symlinkSync(source, join(folder, 'soft.jpg'));
  writeFileSync(join(folder, 'b.jpg'), 'a');
  const names = ['a.jpg', 'hard.jpg', 'soft.jpg', 'b.jpg', 'not there.jpg'];
  const found = await Promise.all(names.map((name) => guard.isSource(join(folder, name))));
  expect(found).toEqual([true, true, true, false, false]);
});

it('knows it through a folder that is a link, written in other ways', async () => {
  mkdirSync(join(folder, 'sub'));
  symlinkSync(folder, join(folder, 'sub', 'up'));
  expect(await guard.isSource(join(folder, 'sub', 'up', 'a.jpg'))).toBe(true);
  expect(await guard.isSource(`${folder}/sub/../a.jpg`)).toBe(true);
});

it('knows the name of one that is away, also by a link to its folder, and no other', async () => {
  const source = join(folder, 'a.jpg');
  rmSync(source);
  symlinkSync(folder, join(folder, 'link'));
  expect(await guard.isNameOfSource(source)).toBe(true);
  expect(await guard.isNameOfSource(join(folder, 'link', 'a.jpg'))).toBe(true);
  expect(await guard.isNameOfSource(join(folder, 'other.jpg'))).toBe(false);
  expect(await guard.isNameOfSource(join(folder, 'gone', 'a.jpg'))).toBe(false);
});

it('knows it after it was saved under a new inode, and while it is away', async () => {
  writeFileSync(join(folder, 'new'), 'new');
  renameSync(join(folder, 'new'), source);
  expect(await guard.isSource(source)).toBe(true);
  symlinkSync(source, join(folder, 'soft.jpg'));
  expect(await guard.isSource(join(folder, 'soft.jpg'))).toBe(true);
  rmSync(source);
  expect(await guard.isSource(source)).toBe(true);
});

it('knows a hard link to what was saved since, by looking again', async () => {
  writeFileSync(join(folder, 'new'), 'new');
  linkSync(join(folder, 'new'), join(folder, 'hard.jpg'));
  renameSync(join(folder, 'new'), source);
  expect(await guard.isSource(join(folder, 'hard.jpg'))).toBe(false);
  await guard.add(source);
  expect(await guard.isSource(join(folder, 'hard.jpg'))).toBe(true);
});

it('takes a name that differs in case for another file where it is one', async () => {
  writeFileSync(join(folder, 'A.JPG'), 'another');
  // On a disk that does not tell the two apart, both are the source.
  const isOne = statSync(join(folder, 'A.JPG')).ino === statSync(source).ino;
  expect(await guard.isSource(join(folder, 'A.JPG'))).toBe(isOne);
});

it('counts what was noted at another time, and paths that cannot be looked at', async () => {
  const other = new SourceGuard();
  other.addPath(join(folder, 'unplugged', 'x.jpg'));
  expect(await other.isSource(join(folder, 'unplugged', 'x.jpg'))).toBe(true);
  expect(await other.isSource(source)).toBe(false);
});

it('takes a link to nowhere for a name that is taken', async () => {
  symlinkSync(join(folder, 'nowhere'), join(folder, 'dangling.jpg'));
  expect(await isTaken(join(folder, 'dangling.jpg'))).toBe(true);
  expect(await isTaken(join(folder, 'free.jpg'))).toBe(false);
});
