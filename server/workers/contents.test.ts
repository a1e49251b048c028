import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Redis } from 'ioredis';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { eventually } from '../../tests/helpers/eventually.ts';
import { ContentIn, ContentOut, MOST_CONTENT_BYTES } from './contents.ts';
import { crewNames } from './crewNames.ts';
import { sealOf } from './seal.ts';

/** Content from a server to a worker, with a Redis that is a map. */

let folder: string;
let kept: Map<string, Buffer>;
let out: ContentOut;
let come: ContentIn;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-content-'));
  kept = new Map();
  const redis = {
    expire: (key: string) => Promise.resolve(kept.has(key) ? 1 : 0),
    set: (key: string, bytes: Buffer) => Promise.resolve(void kept.set(key, bytes)),
    del: (...keys: string[]) => Promise.resolve(keys.forEach((key) => kept.delete(key))),
    getBuffer: (key: string) => Promise.resolve(kept.get(key) ?? null),
  } as unknown as Redis;
  const seal = sealOf('a token');
  const names = crewNames(seal.name);
  out = new ContentOut(redis, names, seal);
  come = new ContentIn(join(folder, 'worker'), redis, names, seal);
});
afterEach(() => rmSync(folder, { recursive: true }));

async function known(name: string, bytes = name) {
  writeFileSync(join(folder, name), bytes);
  const content = await out.known(join(folder, name), '.jpg');
  if (!content) throw new Error('It is too large.');
  return content;
}

it('comes once and stays', async () => {
  const content = await known('mark');
  await out.offer(content);
  const path = await come.file(content);
  expect(path && readFileSync(path, 'utf8')).toBe('mark');
  kept.clear();
  expect(await come.file(content)).toBe(path);
});

it('of one pass goes with it, though another pass has the same', async () => {
  const same = await known('proxy');
  const [first, second] = [
    { ...same, only: 'w1-1-1' },
    { ...same, only: 'w1-1-2' },
  ];
  await out.offer(first);
  await out.offer(second);
  out.remove(first);
  await eventually(async () => expect(await come.fresh(first)).toBeNull());
  const path = await come.fresh(second);
  expect(path && readFileSync(path, 'utf8')).toBe('proxy');
  out.remove(second);
  await eventually(() => expect(kept.size).toBe(0));
});

it('of one pass that is offered again before it went stays', async () => {
  const content = { ...(await known('proxy')), only: 'w1-1-1' };
  await out.offer(content);
  out.remove(content);
  await out.offer(content);
  const other = { ...(await known('other')), only: 'w1-1-2' };
  await out.offer(other);
  out.remove(other);
  await eventually(async () => expect(await come.fresh(other)).toBeNull());
  expect(await come.fresh(content)).not.toBeNull();
});

it('is offered again where Redis has lost it', async () => {
  const content = await known('mark');
  await out.offer(content);
  kept.clear();
  await out.offer(content);
  expect(kept.size).toBe(0);
  out.forget();
  await out.offer(content);
  expect(kept.size).toBe(1);
});

it('that is not what its hash says is not taken, and what is too large does not travel', async () => {
  const [one, other] = [await known('one'), await known('other')];
  await out.offer(one);
  const [sealed] = kept.values();
  const names = crewNames(sealOf('a token').name);
  kept.set(names.content(other.hash), sealed);
  expect(await come.file(other)).toBeNull();
  expect(readdirSync(join(folder, 'worker'))).toEqual([]);
  writeFileSync(join(folder, 'huge'), Buffer.alloc(MOST_CONTENT_BYTES + 1));
  expect(await out.known(join(folder, 'huge'), '.svg')).toBeNull();
});
