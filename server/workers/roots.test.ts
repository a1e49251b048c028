import { mkdirSync, mkdtempSync, realpathSync, rmSync, symlinkSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { tmpdir } from 'node:os';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { Roots } from './roots.ts';

let folder: string;
beforeEach(() => {
  folder = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-roots-')));
});
afterEach(() => rmSync(folder, { recursive: true }));

function rootsOf(...words: string[]): Roots {
  const roots = Roots.of(words);
  if (!roots.ok) throw new Error(roots.reason);
  return roots.value;
}

it('speaks of a file by the nearest root, and finds it on a machine where that lies elsewhere', () => {
  const here = rootsOf(`all=${folder}`, `photos=${join(folder, 'photos')}`);
  const place = here.placeOf(join(folder, 'photos', 'day 1', 'a.jpg'));
  expect(place).toEqual({ root: 'photos', path: 'day 1/a.jpg' });
  expect(here.placeOf(join(folder, 'out'))).toEqual({ root: 'all', path: 'out' });
  expect(here.placeOf(`${folder}-not/a.jpg`)).toBeNull();
  const there = rootsOf('photos=/mnt/share');
  expect(place && there.pathOf(place)).toBe('/mnt/share/day 1/a.jpg');
  expect(there.pathOf({ root: 'photos', path: '' })).toBe('/mnt/share');
  expect(there.pathOf({ root: 'all', path: 'a.jpg' })).toBeNull();
});

it('never leads out of a root', () => {
  const roots = rootsOf('photos=/mnt/share');
  for (const path of ['../etc/passwd', 'a/../../b', '..']) {
    expect(roots.pathOf({ root: 'photos', path })).toBeNull();
  }
});

it('sees a root behind a link as what it is', () => {
  mkdirSync(join(folder, 'real'));
  symlinkSync(join(folder, 'real'), join(folder, 'link'));
  expect(rootsOf(`photos=${join(folder, 'link')}`).placeOf(join(folder, 'real', 'a.jpg'))).toEqual({
    root: 'photos',
    path: 'a.jpg',
  });
});

it('refuses what is no root, and a name given twice', () => {
  for (const word of ['photos', '=/a', 'Photos=/a', '../x=/a', 'photos=']) {
    expect(Roots.of([word])).toMatchObject({ ok: false });
  }
  expect(Roots.of(['a=/x', 'a=/y'])).toMatchObject({ ok: false });
  const text = Roots.inText(['a=/x', 'b=/y'].join(delimiter));
  expect(text.ok && text.value.names).toEqual(['a', 'b']);
  expect(Roots.inText('')).toMatchObject({ ok: true });
});
