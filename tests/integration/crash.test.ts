import { spawn } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterEach, beforeEach, expect, it } from 'vitest';
import type { RunDetailView, RunItemView } from '#core/contract/http';
import { temporaryFolder, until } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { openPdf } from '../helpers/readPdf.ts';
import { ruleOf } from '../helpers/runs.ts';
import { serverEntry, startServer, type ServerProcess } from '../helpers/serverProcess.ts';

/** A real server process, killed without warning in the middle of a run, more than once. */

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const BIN = join(ROOT, 'bin/light-crest');
const PHOTOS = 18;
const SIZE = { width: 900, height: 600 };

let data: string;
let pictures: string;
let out: string;
let server: ServerProcess | null = null;

beforeEach(() => {
  data = temporaryFolder();
  pictures = temporaryFolder();
  out = join(pictures, 'out');
  mkdirSync(out);
});
afterEach(async () => {
  await kill();
  rmSync(data, { recursive: true, force: true });
  rmSync(pictures, { recursive: true, force: true });
});

async function start(port?: string): Promise<void> {
  server = await startServer(data, pictures, port);
}

async function kill(): Promise<void> {
  await server?.kill();
  server = null;
}

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const isText = typeof body === 'string';
  const answer = await fetch(`${server?.address}/api${path}`, {
    method,
    headers: { 'Content-Type': isText ? 'application/octet-stream' : 'application/json' },
    ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (answer.status === 204 ? undefined : await answer.json()) as T;
}

/** A server with a batch of so many photos, a mark on its bench and a delivery. @returns a wish for its run */
async function shoreBy(delivery: { readonly name: string; readonly rule: object }, count = PHOTOS) {
  const photos = join(pictures, 'photos');
  mkdirSync(photos);
  for (let number = 0; number < count; number++) {
    const name = `${String(number).padStart(2, '0')}.jpg`;
    await writeJpeg(join(photos, name), { ...SIZE, seed: number });
  }
  await start();
  const { id: batchId } = await ask<{ id: number }>('POST', '/batches', { name: 'Shore' });
  await ask('POST', `/batches/${batchId}/folders`, { path: photos });
  await until(
    () => ask<{ reading: unknown; photos: unknown[] }>('GET', `/batches/${batchId}`),
    ({ reading, photos: some }) => reading === null && some.length === count,
  );
  const { id: markId } = await ask<{ id: number }>('POST', '/marks?name=m.svg', MARK_SVG);
  await ask('PATCH', `/batches/${batchId}`, { placing: { markId, rule: ruleOf({}), base: 0 } });
  const body = { ...delivery, folder: out };
  const { id: deliveryId } = await ask<{ id: number }>('POST', '/deliveries', body);
  return { batchId, deliveryIds: [deliveryId], markId, presetName: 'P', rule: ruleOf({}) };
}

const WEB = { name: 'Web', rule: { resize: null, name_pattern: '{name}-marked' } };

it('finishes a run over several kills: every output complete, none doubled, none partial', async () => {
  const wish = { ...(await shoreBy(WEB)), photoIds: null };
  const { id: runId } = await ask<{ id: number }>('POST', '/runs', wish);
  const detail = () => ask<RunDetailView>('GET', `/runs/${runId}`);

  for (const atLeast of [3, 8, 13]) {
    await until(detail, ({ run }) => run.written >= atLeast);
    await kill();
    // What a reader of the folder sees meanwhile: only whole outputs under final names.
    for (const name of readdirSync(out)) {
      if (!name.startsWith('.')) await sharp(join(out, name)).stats();
    }
    await start();
  }
  const { run, items } = await until(detail, (now) => now.run.state === 'done');

  expect(run).toMatchObject({ written: PHOTOS, failed: 0, skipped: 0 });
  const names = readdirSync(out).sort();
  expect(names).toHaveLength(PHOTOS);
  expect(names).toEqual(items.map((item: RunItemView) => item.outputName).sort());
  expect(names.every((name) => /^\d\d-marked\.jpg$/.test(name))).toBe(true);
  for (const name of names) {
    const { width, height } = await sharp(join(out, name), { failOn: 'warning' }).metadata();
    expect([width, height]).toEqual([SIZE.width, SIZE.height]);
    await sharp(join(out, name), { failOn: 'warning' }).stats();
  }
});

it('does not start a second server on the same data', async () => {
  await start();
  const second = spawn(process.execPath, serverEntry(), {
    cwd: ROOT,
    env: { ...process.env, LIGHT_CREST_DATA: data, LIGHT_CREST_PORT: '0' },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  second.stderr.on('data', (text: Buffer) => (said += text.toString()));
  expect(await new Promise((done) => second.on('exit', done))).toBe(1);
  expect(said).toContain(`already runs with this data, at ${server?.address}`);
});

it('makes one PDF of all photos over several kills: whole, once, and nothing else is left', async () => {
  const count = 12;
  const sheet = { paper: 'a5', lies: 'photo' };
  const rule = { kind: 'sheet', name_pattern: '{batch}', sheet };
  const wish = await shoreBy({ name: 'Prints', rule }, count);
  const { id: runId } = await ask<{ id: number }>('POST', '/runs', wish);
  const isDone = async (): Promise<boolean> => {
    return (await ask<RunDetailView>('GET', `/runs/${runId}`)).run.state === 'done';
  };
  // Killed while photos are made ready, while the sheets are written, and while they get their name.
  for (let kills = 0; kills < 6 && !(await isDone()); kills++) {
    await new Promise((resume) => setTimeout(resume, 250 + 350 * kills));
    await kill();
    await start();
  }
  await until(isDone, (done) => done);
  expect(readdirSync(out)).toEqual(['Shore.pdf']);
  const pdf = await openPdf(join(out, 'Shore.pdf'));
  expect(pdf.pages).toBe(count);
  for (const page of [1, count]) expect((await pdf.page(page)).images).toHaveLength(1);
  await pdf.close();
  const { run } = await ask<RunDetailView>('GET', `/runs/${runId}`);
  expect(run).toMatchObject({
    written: count,
    failed: 0,
    documents: [{ written: 1, error: null }],
  });
  expect(readdirSync(join(data, 'prepared'))).toEqual([]);
});

/** `light-crest run` of the batch, as it is under way. */
function called() {
  const env = { ...process.env, LIGHT_CREST_DATA: data, LIGHT_CREST_FOLDERS: pictures };
  const child = spawn(BIN, ['run', 'Shore', '--delivery', 'Web'], { env });
  const said = { out: '', err: '' };
  child.stdout.on('data', (text: Buffer) => (said.out += text.toString()));
  child.stderr.on('data', (text: Buffer) => (said.err += text.toString()));
  const status = new Promise<number | null>((done) => child.on('close', done));
  const printed = () => Promise.resolve(said.out.split('\n').length - 1);
  return { said, status, printed };
}

it('a call that follows a run follows it over a restart of the server that makes it', async () => {
  await shoreBy(WEB);
  const { port } = new URL(server?.address ?? '');
  const call = called();
  await until(call.printed, (count) => count >= 2);
  await kill();
  await start(port);
  expect([await call.status, call.said.err]).toEqual([0, '']);
  const written = readdirSync(out).map((name) => join(out, name));
  expect(written).toHaveLength(PHOTOS);
  expect(call.said.out.trim().split('\n').sort()).toEqual(written.sort());
});

it('a call whose server has ended says what becomes of its run', async () => {
  await shoreBy(WEB);
  const call = called();
  await until(call.printed, (count) => count >= 2);
  await kill();
  expect(await call.status).toBe(1);
  expect(call.said.err).toContain('It goes on with the run when it is started again.');
});
