import { randomBytes } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readFileSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { Objects } from '#server/workers/storage/objects';
import { freePort, startStore, STORE_KEYS, type OwnProcess } from '../helpers/crew.ts';
import { temporaryFolder } from '../helpers/house.ts';

/** Files that go into a store and come back, and what if that ends. */

let folder: string;
let store: OwnProcess;
let objects: Objects;
beforeEach(async () => {
  folder = temporaryFolder();
  mkdirSync(join(folder, 'objects'));
  const port = await freePort();
  store = await startStore(join(folder, 'objects'), port, 'studio');
  Object.assign(process.env, STORE_KEYS);
  const endpoint = `http://127.0.0.1:${port}`;
  objects = new Objects({ bucket: 'studio', prefix: 'p/', region: 'us-east-1', endpoint });
});
afterEach(async () => {
  objects.close();
  await store.kill();
  rmSync(folder, { recursive: true });
});

const file = (name: string): string => join(folder, name);
function put(name: string, bytes: number): void {
  writeFileSync(file(name), randomBytes(bytes));
  utimesSync(file(name), 1_000, 1_000);
}

it.each([0, 1_000, 9_000_000, 20_000_000])('come back as they were, %i bytes', async (bytes) => {
  put('in', bytes);
  await objects.put('a/b.jpg', file('in'));
  expect(await objects.size('a/b.jpg')).toBe(bytes);
  expect(await objects.get('a/b.jpg', file('back'))).toBe(bytes);
  expect(readFileSync(file('back')).equals(readFileSync(file('in')))).toBe(true);
  expect(statSync(file('back')).mtimeMs).toBe(1_000_000);
});

it('that are not there leave no file, and can be removed', async () => {
  expect(await objects.size('none')).toBeNull();
  expect(await objects.get('none', file('back'))).toBeNull();
  expect(existsSync(file('back'))).toBe(false);
  await objects.remove('none');
});

it('given up on their way are not there at all', async () => {
  put('in', 60_000_000);
  const giving = new AbortController();
  const going = objects.put('a/b.jpg', file('in'), giving.signal);
  setTimeout(() => giving.abort(), 30);
  await expect(going).rejects.toThrow();
  expect(await objects.size('a/b.jpg')).toBeNull();
  await expect(objects.put('a/b.jpg', file('in'), giving.signal)).rejects.toThrow();
});

it('of one pass are removed, and no others', async () => {
  put('in', 10);
  for (const key of ['w1-7-3/a', 'w1-7-4/b', 'w1-71-3/c']) await objects.put(key, file('in'));
  await objects.removeBelow('w1-7-');
  expect(await objects.size('w1-7-3/a')).toBeNull();
  expect(await objects.size('w1-7-4/b')).toBeNull();
  expect(await objects.size('w1-71-3/c')).toBe(10);
});

it('leave nothing where the store is gone', async () => {
  put('in', 10);
  await objects.put('a', file('in'));
  await store.kill();
  await expect(objects.get('a', file('back'))).rejects.toThrow();
  expect(existsSync(file('back'))).toBe(false);
});
