import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { AllowedFolders } from './allowedFolders.ts';
import { publish, writeTemporary } from './atomicWrite.ts';
import { lockData } from './dataLock.ts';
import { storageSentence } from './storageErrors.ts';

let folder: string;
beforeEach(() => {
  folder = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-storage-')));
});
afterEach(() => rmSync(folder, { recursive: true }));

describe('writing', () => {
  it('writes all parts, with the date that is wanted', async () => {
    const path = join(folder, 'a.part');
    const modified = new Date('2020-02-03T04:05:06Z');
    await writeTemporary(path, [Buffer.from('one '), Buffer.from('two')], modified);
    expect(readFileSync(path, 'utf8')).toBe('one two');
    expect(statSync(path).mtime).toEqual(modified);
  });

  it('keeps large and small parts in order', async () => {
    const path = join(folder, 'a.part');
    const sizes = [3, 70_000, 0, 5, 9, 65_536, 65_537, 100_000, 1];
    const parts = sizes.map((size, index) => Buffer.alloc(size, index + 1));
    await writeTemporary(path, parts, null);
    expect(readFileSync(path).equals(Buffer.concat(parts))).toBe(true);
    await writeTemporary(path, [], null);
    expect(readFileSync(path).length).toBe(0);
  });

  it('leaves nothing when writing fails', async () => {
    const path = join(folder, 'a.part');
    const broken = [Buffer.from('one'), null as unknown as Buffer];
    await expect(writeTemporary(path, broken, null)).rejects.toThrow();
    expect(existsSync(path)).toBe(false);
  });

  it('can be read while it is flushed; where that fails, nothing is left', async () => {
    const path = join(folder, 'a.part');
    let seen = '';
    const reads = () => {
      seen = readFileSync(path, 'utf8');
      return Promise.resolve();
    };
    await writeTemporary(path, [Buffer.from('one '), Buffer.from('two')], null, reads);
    expect(seen).toBe('one two');
    const fails = () => Promise.reject(new Error('cannot be read'));
    await expect(writeTemporary(path, [Buffer.from('x')], null, fails)).rejects.toThrow('read');
    expect(existsSync(path)).toBe(false);
  });

  it('gives a name once, and leaves a file that has it', async () => {
    const target = join(folder, 'a.jpg');
    writeFileSync(join(folder, 'first.part'), 'first');
    writeFileSync(join(folder, 'second.part'), 'second');
    expect(await publish(join(folder, 'first.part'), target, false)).toBe(true);
    expect(await publish(join(folder, 'second.part'), target, false)).toBe(false);
    expect(readFileSync(target, 'utf8')).toBe('first');
    expect(await publish(join(folder, 'second.part'), target, true)).toBe(true);
    expect(readFileSync(target, 'utf8')).toBe('second');
    expect(readdirSync(folder)).toEqual(['a.jpg']);
  });

  it('replaces a link, not what it leads to', async () => {
    writeFileSync(join(folder, 'far.jpg'), 'far');
    symlinkSync(join(folder, 'far.jpg'), join(folder, 'a.jpg'));
    writeFileSync(join(folder, 'new.part'), 'new');
    await publish(join(folder, 'new.part'), join(folder, 'a.jpg'), true);
    expect(readFileSync(join(folder, 'far.jpg'), 'utf8')).toBe('far');
    expect(readFileSync(join(folder, 'a.jpg'), 'utf8')).toBe('new');
  });
});

describe('sentences', () => {
  it.each([
    ['ENOSPC', 'is full'],
    ['EDQUOT', 'is full'],
    ['EACCES', 'may not be written'],
    ['EROFS', 'can only be read'],
    ['ENOENT', 'not there any more'],
    ['ENOTDIR', 'is a file'],
    ['ENAMETOOLONG', 'too long'],
    ['EIO', 'could not be written to /out'],
  ])('%s', (code, words) => {
    const sentence = storageSentence('/out/a.jpg', Object.assign(new Error('x'), { code }));
    expect(sentence).toContain(words);
    expect(sentence).toContain('/out');
  });
});

describe('allowed folders', () => {
  it('takes what lies inside, also what does not exist yet, and nothing else', async () => {
    const root = join(folder, 'root');
    mkdirSync(join(root, 'in'), { recursive: true });
    mkdirSync(join(folder, 'root-beside'));
    symlinkSync(folder, join(root, 'out'));
    const allowed = new AllowedFolders(() => [root]);
    const areOk = (paths: string[]): Promise<boolean[]> =>
      Promise.all(paths.map(async (path) => (await allowed.resolve(path)).ok));
    expect(await areOk([root, join(root, 'in'), join(root, 'in/new/deep.jpg')])).toEqual([
      true,
      true,
      true,
    ]);
    const outside = [
      ...[folder, join(folder, 'root-beside'), join(root, '..'), join(root, 'in/../../x')],
      ...[join(root, 'out'), join(root, 'out/new.jpg'), 'root/in', '/etc/passwd'],
    ];
    expect(await areOk(outside)).toEqual(outside.map(() => false));
  });

  it('follows a root that is a link itself, and one that is gone allows nothing', async () => {
    mkdirSync(join(folder, 'real'));
    symlinkSync(join(folder, 'real'), join(folder, 'link'));
    const allowed = new AllowedFolders(() => [join(folder, 'link'), join(folder, 'gone')]);
    expect((await allowed.resolve(join(folder, 'real', 'a.jpg'))).ok).toBe(true);
    expect((await allowed.resolve(join(folder, 'gone', 'a.jpg'))).ok).toBe(false);
  });
});

it('lets one server hold a data folder, and says where it is', async () => {
  const first = lockData(folder);
  if ('heldBy' in first) throw new Error('held already');
  await first.setAddress('http://127.0.0.1:1');
  expect(lockData(folder)).toEqual({ heldBy: 'http://127.0.0.1:1' });
  first.release();
  const second = lockData(folder);
  expect('heldBy' in second).toBe(false);
  if (!('heldBy' in second)) second.release();
});
