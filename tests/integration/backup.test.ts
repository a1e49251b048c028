import { execFile } from 'node:child_process';
import {
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { ZipArchive } from 'archiver';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, temporaryFolder, until, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, addMark, runToEnd, wishOf } from '../helpers/runs.ts';
import { startServer } from '../helpers/serverProcess.ts';

/** The whole of a data folder as one file, and back, while somebody is at work on it. */

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));

let test: TestHouse;
let folder: string;
let batchId: number;
beforeAll(async () => {
  test = await openHouse();
  folder = temporaryFolder();
  const source = join(test.pictures, 'in');
  mkdirSync(source);
  await writeJpeg(join(source, 'read-in-place.jpg'), { width: 90, height: 60 });
  batchId = await addBatch(test, source);
  const dropped = readFileSync(join(source, 'read-in-place.jpg'));
  await test.api
    .post(`/api/batches/${batchId}/photos`)
    .query({ name: 'dropped.jpg' })
    .type('application/octet-stream')
    .send(dropped)
    .expect(201);
  const markId = await addMark(test, Buffer.from(MARK_SVG), 'Crest.svg');
  const deliveryIds = [await addDelivery(test, {}, null)];
  await runToEnd(test, wishOf({ batchId, markId, deliveryIds }));
});
afterAll(async () => {
  await test.close();
  rmSync(folder, { recursive: true });
});

function call(data: string, ...words: string[]): Promise<{ status: number; err: string }> {
  const env = { ...process.env, LIGHT_CREST_DATA: data };
  return new Promise((done) => {
    execFile(BIN, words, { cwd: folder, env }, (error, _, err) => {
      done({ status: error ? Number(error.code) : 0, err });
    });
  });
}

/** Names and bytes of all that is backed up. */
function contentOf(data: string, below = ''): Map<string, string> {
  const found = new Map<string, string>();
  for (const entry of readdirSync(join(data, below), { withFileTypes: true })) {
    const name = join(below, entry.name);
    if (/^(incoming|lock|address|light-crest|restore|before)/.test(name)) continue;
    if (entry.isDirectory()) contentOf(data, name).forEach((text, at) => found.set(at, text));
    else found.set(name, readFileSync(join(data, name), 'base64'));
  }
  return found;
}

async function zipOf(name: string, files: Record<string, string | Buffer>): Promise<string> {
  const zip = new ZipArchive({ store: true });
  const written = pipeline(zip, createWriteStream(join(folder, name)));
  for (const [path, content] of Object.entries(files)) zip.append(content, { name: path });
  await Promise.all([zip.finalize(), written]);
  return name;
}

describe('a backup', () => {
  it('holds the data as it is while it is in use, and gives it back elsewhere', async () => {
    // Somebody works on all the while.
    let names = 0;
    let isOver = false;
    const working = (async () => {
      while (!isOver) {
        await test.api.patch(`/api/batches/${batchId}`).send({ name: `Batch ${names++}` });
      }
    })();
    const made = await call(test.folder, 'backup', 'whole.zip');
    isOver = true;
    await working;
    expect(made.status).toBe(0);
    expect(made.err).toContain('1 photos are read where they lie');
    expect(names).toBeGreaterThan(3);
    expect(readdirSync(folder).filter((name) => name.startsWith('.'))).toEqual([]);

    const elsewhere = temporaryFolder();
    const back = await call(join(elsewhere, 'data'), 'restore', 'whole.zip');
    expect([back.status, back.err]).toEqual([0, expect.stringContaining('is that of the backup')]);
    expect(contentOf(join(elsewhere, 'data'))).toEqual(contentOf(test.folder));
    const other = await openHouse({ folder: join(elsewhere, 'data'), pictures: test.pictures });
    const { photos } = (await other.api.get(`/api/batches/${batchId}`)).body;
    expect(photos.map(({ name }: { name: string }) => name).sort()).toEqual([
      ...['dropped.jpg', 'read-in-place.jpg'],
    ]);
    const runs = (await other.api.get('/api/runs')).body;
    expect(runs[0]).toMatchObject({ state: 'done', written: 2 });
    await other.end();
    rmSync(elsewhere, { recursive: true });
  });

  it('is taken from the page as well', async () => {
    const answer = await fetch(`http://127.0.0.1:${test.port}/api/backup`);
    expect(answer.headers.get('content-disposition')).toMatch(/Light Crest \d{4}-\d\d-\d\d\.zip/);
    writeFileSync(join(folder, 'page.zip'), Buffer.from(await answer.arrayBuffer()));
    const data = join(folder, 'from-page');
    expect((await call(data, 'restore', 'page.zip')).status).toBe(0);
    expect(contentOf(data)).toEqual(contentOf(test.folder));
    // The copy of the database is gone again, also where somebody breaks off.
    const leaving = new AbortController();
    await fetch(`http://127.0.0.1:${test.port}/api/backup`, { signal: leaving.signal });
    leaving.abort();
    await until(
      () => readdirSync(join(test.folder, 'incoming')),
      (names) => names.length === 0,
    );
  });

  it('replaces no file unasked, and is not written into the data', async () => {
    writeFileSync(join(folder, 'there.zip'), 'something else');
    const refused = await call(test.folder, 'backup', 'there.zip');
    expect([refused.status, readFileSync(join(folder, 'there.zip'), 'utf8')]).toEqual([
      ...[2, 'something else'],
    ]);
    expect((await call(test.folder, 'backup', 'there.zip', '--force')).status).toBe(0);
    expect(statSync(join(folder, 'there.zip')).size).toBeGreaterThan(10_000);
    const inside = await call(test.folder, 'backup', join(test.folder, 'exports', 'b.zip'));
    expect([inside.status, inside.err]).toEqual([
      2,
      expect.stringContaining('outside of the data'),
    ]);
    expect((await call(join(folder, 'none'), 'backup', 'none.zip')).status).toBe(2);
  });
});

describe('a restore', () => {
  it('waits for the server that is at work, and keeps what was there', async () => {
    expect((await call(test.folder, 'backup', 'waits.zip', '--force')).status).toBe(0);
    const data = temporaryFolder();
    const server = await startServer(data, test.pictures);
    const before = await (await fetch(`${server.address}/api/batches`)).json();
    expect(before).toEqual([]);
    const told = await call(data, 'restore', 'waits.zip');
    expect([told.status, told.err]).toEqual([0, expect.stringContaining('lies ready')]);
    // What is at work is not touched.
    expect(await (await fetch(`${server.address}/api/batches`)).json()).toEqual([]);
    await server.kill();
    const again = await startServer(data, test.pictures);
    expect(again.said()).toContain('A backup was taken up');
    const batches = (await (await fetch(`${again.address}/api/batches`)).json()) as {
      id: number;
    }[];
    expect(batches.map(({ id }) => id)).toEqual([batchId]);
    await again.stop();
    const kept = readdirSync(data).find((name) => name.startsWith('before-restore-'));
    expect(existsSync(join(data, String(kept), 'light-crest.sqlite'))).toBe(true);
    rmSync(data, { recursive: true });
  });

  it('refuses what is damaged or is none, and leaves the data as it is', async () => {
    const whole = readFileSync(join(folder, 'whole.zip'));
    const photo = whole.indexOf(Buffer.from('photos/'));
    const flipped = Buffer.from(whole);
    flipped[photo + 200] ^= 0xff;
    writeFileSync(join(folder, 'flipped.zip'), flipped);
    writeFileSync(join(folder, 'cut.zip'), whole.subarray(0, whole.length / 2));
    writeFileSync(join(folder, 'text.zip'), 'no ZIP at all');
    const note = {
      ...{ format: 'light-crest/backup', version: 1, made_at: '2026-11-01T00:00:00.000Z' },
      ...{ database: 1, photos_elsewhere: 0 },
    };
    const noteFile = { 'light-crest-backup.json': JSON.stringify(note) };
    const newer = new Database(join(folder, 'newer.sqlite'));
    newer.pragma('user_version = 900');
    newer.close();
    const newerDatabase = readFileSync(join(folder, 'newer.sqlite'));
    await zipOf('other.zip', { 'a/b.txt': 'something' });
    await zipOf('strange.zip', { ...noteFile, 'lock.sqlite': 'x' });
    await zipOf('bare.zip', noteFile);
    await zipOf('newer.zip', { ...noteFile, 'light-crest.sqlite': newerDatabase });
    await zipOf('rows.zip', { ...noteFile, 'light-crest.sqlite': 'no database' });
    await zipOf('note.zip', { 'light-crest-backup.json': '{"format":"x"}' });

    const data = temporaryFolder();
    mkdirSync(join(data, 'photos'));
    writeFileSync(join(data, 'photos', '1.jpg'), 'mine');
    for (const [name, reason] of [
      ['flipped.zip', 'damaged'],
      ['cut.zip', 'cannot be read as a ZIP'],
      ['text.zip', 'cannot be read as a ZIP'],
      ['missing.zip', 'cannot be read as a ZIP'],
      ['other.zip', 'is no backup of Light Crest: it holds a/b.txt'],
      ['strange.zip', 'it holds lock.sqlite'],
      ['bare.zip', 'it has no light-crest.sqlite'],
      ['newer.zip', 'made by a newer Light Crest'],
      ['rows.zip', 'its database cannot be opened'],
      ['note.zip', 'expected "light-crest/backup"'],
    ]) {
      const refused = await call(data, 'restore', name);
      expect([name, refused.status, refused.err]).toEqual([
        ...[name, 2, expect.stringContaining(reason)],
      ]);
      expect(readdirSync(data)).toEqual(['photos']);
    }
    rmSync(data, { recursive: true });
  });

  it('never lands outside of the data', async () => {
    // A name like this is not written by the library; it is put in by hand.
    const name = 'photos/../../../x.jpg';
    const harmless = 'photos/aa/bb/cc/x.jpg';
    const bytes = readFileSync(join(folder, await zipOf('harmless.zip', { [harmless]: 'out' })));
    const text = bytes.toString('latin1').replaceAll(harmless, name);
    writeFileSync(join(folder, 'escape.zip'), Buffer.from(text, 'latin1'));
    expect(name).toHaveLength(harmless.length);
    const data = join(folder, 'a', 'b', 'data');
    const refused = await call(data, 'restore', 'escape.zip');
    expect(refused.status).toBe(2);
    expect(existsSync(join(folder, 'a', 'x.jpg'))).toBe(false);
    expect(existsSync(join(folder, 'x.jpg'))).toBe(false);
  });
});
