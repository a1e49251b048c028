import { readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { startWorker, type OwnProcess, type WorkerWish } from '../helpers/crew.ts';
import { temporaryFolder } from '../helpers/house.ts';
import { startServer } from '../helpers/serverProcess.ts';

/** What a server or a worker is not started with, and how a token comes from one to the other. */

let folder: string;
beforeEach(() => {
  folder = temporaryFolder();
});
afterEach(() => rmSync(folder, { recursive: true }));

function started(part: Partial<WorkerWish>): OwnProcess {
  const wish = { name: 'w', redis: 'redis://127.0.0.1:1', token: 'a token', roots: [] };
  return startWorker({ ...wish, cache: join(folder, 'cache'), ...part });
}

it.each([
  [{ redis: '' }, /--redis or LIGHT_CREST_REDIS/],
  [{ redis: 'redis://studio.example' }, /in the open/],
  [{ roots: ['/srv/photos'] }, /name=folder/],
  [{ jobs: 0 }, /Expected a whole number from 1 to 64 for --jobs/],
  [{ leaseMs: 5 }, /LIGHT_CREST_LEASE_MS/],
] as [Partial<WorkerWish>, RegExp][])('a worker is not started with %j', async (part, said) => {
  const worker = started(part);
  expect(await worker.gone).toBe(2);
  expect(worker.said()).toMatch(said);
});

it('a worker that finds no Redis waits for it, and ends when it is asked to', async () => {
  const worker = started({});
  while (!worker.said().includes('makes 1 at once')) await new Promise((go) => setTimeout(go, 50));
  worker.signal('SIGTERM');
  expect(await worker.gone).toBe(0);
});

it('a server is not started with a Redis of another machine in the open, nor with a root that is none', async () => {
  const data = join(folder, 'data');
  const start = (env: NodeJS.ProcessEnv) => startServer(data, folder, '0', env);
  await expect(start({ LIGHT_CREST_REDIS: 'redis://10.0.0.4' })).rejects.toThrow('ended early');
  const env = { LIGHT_CREST_REDIS: 'redis://127.0.0.1:1', LIGHT_CREST_ROOTS: 'photos' };
  await expect(start(env)).rejects.toThrow('ended early');
});

it('its token is made once, is for its user alone, and a server starts without its Redis', async () => {
  const data = join(folder, 'data');
  const env = { LIGHT_CREST_REDIS: 'redis://127.0.0.1:1', LIGHT_CREST_ROOTS: `all=${folder}` };
  const tokens: string[] = [];
  for (let start = 0; start < 2; start++) {
    const server = await startServer(data, folder, '0', env);
    tokens.push(readFileSync(join(data, 'worker-token'), 'utf8'));
    expect(await (await fetch(`${server.address}/api/workers`)).json()).toEqual({
      ...{ isConnected: false, roots: ['all'], store: null, storeProblem: null, workers: [] },
    });
    await server.stop();
  }
  expect(tokens[0]).toMatch(/^[\w-]{43}\n$/);
  expect(tokens[1]).toBe(tokens[0]);
  expect(statSync(join(data, 'worker-token')).mode & 0o777).toBe(0o600);
  const alone = await startServer(join(folder, 'other'), folder);
  expect(await (await fetch(`${alone.address}/api/workers`)).json()).toBeNull();
  await alone.stop();
});
