import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterEach, beforeEach, expect, it } from 'vitest';
import type { RunDetailView, WorkersView } from '#core/contract/http';
import {
  certificateIn,
  freePort,
  startRedis,
  startWorker,
  type OwnProcess,
  type WorkerWish,
} from '../helpers/crew.ts';
import { temporaryFolder, until } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { ruleOf } from '../helpers/runs.ts';
import { startServer, type ServerProcess } from '../helpers/serverProcess.ts';

/** Passes made by workers, as processes of their own with a real Redis between, and what if one of all these ends. */

const LEASE_MS = 1_500;
const FRAME = { width: 1_500, height: 1_000 };

let folder: string;
let pictures: string;
let photos: string;
let out: string;
let port: number;
let redis: OwnProcess;
let server: ServerProcess;
let workers: Map<string, OwnProcess>;

beforeEach(async () => {
  [folder, pictures] = [temporaryFolder(), temporaryFolder()];
  [photos, out] = [join(pictures, 'photos'), join(pictures, 'out')];
  mkdirSync(photos);
  mkdirSync(out);
  workers = new Map();
  port = await freePort();
  redis = await startRedis(pictures, port);
  await serve();
});
afterEach(async () => {
  for (const worker of workers.values()) await worker.kill();
  await server.kill();
  await redis.kill();
  for (const path of [folder, pictures]) rmSync(path, { recursive: true, force: true });
});

const address = (): string => `redis://127.0.0.1:${port}`;
async function serve(env: NodeJS.ProcessEnv = {}): Promise<void> {
  server = await startServer(join(folder, 'data'), pictures, '0', {
    LIGHT_CREST_REDIS: address(),
    LIGHT_CREST_ROOTS: `photos=${pictures}`,
    ...env,
  });
}
function work(name: string, part: Partial<WorkerWish> = {}): OwnProcess {
  const token = readFileSync(join(folder, 'data', 'worker-token'), 'utf8').trim();
  const wish = { name, redis: address(), token, roots: [`photos=${pictures}`], leaseMs: LEASE_MS };
  const worker = startWorker({ ...wish, cache: join(folder, 'cache'), ...part });
  workers.set(name, worker);
  return worker;
}
async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const isText = typeof body === 'string';
  const answer = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'Content-Type': isText ? 'application/octet-stream' : 'application/json' },
    ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (answer.status === 204 ? undefined : await answer.json()) as T;
}
const crew = () => ask<WorkersView>('GET', '/workers');
const areThere = (...names: string[]) =>
  until(crew, ({ workers: all }) => {
    return names.every((name) => all.some((one) => one.name === name && one.problem === null));
  });

async function begun(count: number): Promise<number> {
  for (let number = 0; number < count; number++) {
    await writeJpeg(join(photos, `${number}.jpg`), { ...FRAME, seed: number });
  }
  const { id: batchId } = await ask<{ id: number }>('POST', '/batches', { name: 'Shore' });
  await ask('POST', `/batches/${batchId}/folders`, { path: photos });
  await until(
    () => ask<{ reading: unknown; photos: unknown[] }>('GET', `/batches/${batchId}`),
    (now) => now.reading === null && now.photos.length === count,
  );
  const { id: markId } = await ask<{ id: number }>('POST', '/marks?name=m.svg', MARK_SVG);
  const rule = { name_pattern: '{name}-marked' };
  const delivery = { name: 'Web', rule, folder: out };
  const { id: deliveryId } = await ask<{ id: number }>('POST', '/deliveries', delivery);
  const wish = { batchId, deliveryIds: [deliveryId], markId, presetName: 'P', rule: ruleOf({}) };
  return (await ask<{ id: number }>('POST', '/runs', wish)).id;
}
const detail = (id: number) => () => ask<RunDetailView>('GET', `/runs/${id}`);
const isDone = ({ run }: RunDetailView): boolean => run.state === 'done';

async function expectWhole(run: RunDetailView, count: number): Promise<void> {
  expect(run.run).toMatchObject({ written: count, failed: 0, skipped: 0 });
  const names = readdirSync(out).sort();
  expect(names).toEqual(run.items.map(({ outputName }) => outputName).sort());
  expect(new Set(names).size).toBe(count);
  for (const name of names) {
    const { width, height } = await sharp(join(out, name), { failOn: 'warning' }).metadata();
    expect([width, height]).toEqual([FRAME.width, FRAME.height]);
    await sharp(join(out, name), { failOn: 'warning' }).stats();
  }
}
const makers = ({ items }: RunDetailView): Set<string | null> =>
  new Set(items.map(({ madeBy }) => madeBy));

it('makes each output once and whole, whoever of them is killed, frozen or started anew', async () => {
  const count = 30;
  work('first');
  const second = work('second');
  await areThere('first', 'second');
  const id = await begun(count);
  const written = (least: number) => until(detail(id), ({ run }) => run.written >= least);
  await written(3);
  await workers.get('first')?.kill();
  work('third');
  await written(7);
  second.signal('SIGSTOP');
  await new Promise((done) => setTimeout(done, 3 * LEASE_MS));
  await written(11);
  second.signal('SIGCONT');
  await written(15);
  await redis.kill();
  redis = await startRedis(pictures, port);
  const end = await until(detail(id), isDone);
  await expectWhole(end, count);
  expect([...makers(end)].sort()).toEqual(expect.arrayContaining(['second', 'third']));
  await areThere('second', 'third');
});

it('takes up what workers finish while the server is not there', async () => {
  work('only');
  await areThere('only');
  const id = await begun(8);
  await until(detail(id), ({ run }) => run.written >= 2);
  await server.kill();
  await new Promise((done) => setTimeout(done, 2_000));
  await serve();
  const end = await until(detail(id), isDone);
  await expectWhole(end, 8);
  expect(makers(end)).toEqual(new Set(['only']));
});

it('makes photos itself where nobody is there, and gives nothing to who cannot reach the folders', async () => {
  work('apart', { roots: ['elsewhere=/nowhere'] });
  await until(crew, ({ workers: all }) => all.some(({ problem }) => problem?.includes('--root')));
  const id = await begun(3);
  const end = await until(detail(id), isDone);
  await expectWhole(end, 3);
  expect(makers(end)).toEqual(new Set([null]));
  await redis.kill();
  await until(crew, ({ isConnected }) => !isConnected);
  await ask('POST', `/runs/${id}/retry`);
  redis = await startRedis(pictures, port);
  await until(crew, ({ isConnected }) => isConnected);
});

it('meets its workers over TLS, and nobody who has another token or does not know its certificate', async () => {
  await server.kill();
  await redis.kill();
  const tls = certificateIn(folder);
  redis = await startRedis(pictures, port, tls);
  const closed = `rediss://127.0.0.1:${port}`;
  await serve({ LIGHT_CREST_REDIS: closed, LIGHT_CREST_REDIS_CA: tls.certificate });
  await until(crew, ({ isConnected }) => isConnected);
  work('known', { redis: closed, ca: tls.certificate });
  work('stranger', { redis: closed, ca: tls.certificate, token: 'of another server' });
  work('unsure', { redis: closed });
  await areThere('known');
  const end = await until(detail(await begun(3)), isDone);
  await expectWhole(end, 3);
  expect(makers(end)).toEqual(new Set(['known']));
  expect((await crew()).workers.map(({ name }) => name)).toEqual(['known']);
});
