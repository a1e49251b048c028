import { cpSync, rmSync } from 'node:fs';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { certificateIn } from '../helpers/crew.ts';
import { CrewHouse, LEASE_MS, makers } from '../helpers/crewHouse.ts';
import { until } from '../helpers/house.ts';

/** Passes made by workers that share folders with the server, and what if one of all these ends. */

let house: CrewHouse;
beforeEach(async () => {
  house = await CrewHouse.open();
  await house.server.kill();
  await house.serve({ LIGHT_CREST_ROOTS: `photos=${house.pictures}` });
});
afterEach(() => house.close());

const work: CrewHouse['work'] = (name, part) =>
  house.work(name, { roots: [`photos=${house.pictures}`], ...part });

it('makes each output once and whole, whoever of them is killed, frozen or started anew', async () => {
  const count = 30;
  work('first');
  const second = work('second');
  await house.areThere('first', 'second');
  const id = await house.begun(count);
  await house.written(id, 3);
  await house.workers.get('first')?.kill();
  work('third');
  await house.written(id, 7);
  second.signal('SIGSTOP');
  await new Promise((done) => setTimeout(done, 3 * LEASE_MS));
  await house.written(id, 11);
  second.signal('SIGCONT');
  await house.written(id, 15);
  await house.redis.kill();
  await house.startRedis();
  const end = await house.ended(id);
  await house.expectWhole(end, count);
  expect([...makers(end)].sort()).toEqual(expect.arrayContaining(['second', 'third']));
  await house.areThere('second', 'third');
});

it('takes up what workers finish while the server is not there', async () => {
  work('only');
  await house.areThere('only');
  const id = await house.begun(8);
  await house.written(id, 2);
  await house.server.kill();
  await new Promise((done) => setTimeout(done, 2_000));
  await house.serve({ LIGHT_CREST_ROOTS: `photos=${house.pictures}` });
  const end = await house.ended(id);
  await house.expectWhole(end, 8);
  expect(makers(end)).toEqual(new Set(['only']));
});

it('makes photos itself where nobody is there, and gives nothing to who cannot reach the folders or is of another version', async () => {
  work('apart', { roots: ['elsewhere=/nowhere'] });
  await house.hasProblem('apart', '--root');
  const other = `${process.env.LIGHT_CREST_BUILT}-of-another-version`;
  cpSync(process.env.LIGHT_CREST_BUILT ?? '', other, { recursive: true });
  try {
    work('old', { built: other });
    await house.hasProblem('old', 'another version');
    const id = await house.begun(3);
    const end = await house.ended(id);
    await house.expectWhole(end, 3);
    expect(makers(end)).toEqual(new Set([null]));
    await house.redis.kill();
    await until(house.crew, ({ isConnected }) => !isConnected);
    await house.ask('POST', `/runs/${id}/retry`);
    await house.startRedis();
    await until(house.crew, ({ isConnected }) => isConnected);
  } finally {
    rmSync(other, { recursive: true, force: true });
  }
});

it('meets its workers over TLS, and nobody who has another token or does not know its certificate', async () => {
  await house.server.kill();
  await house.redis.kill();
  const tls = certificateIn(house.folder);
  await house.startRedis(tls);
  const closed = `rediss://127.0.0.1:${house.port}`;
  await house.serve({
    LIGHT_CREST_ROOTS: `photos=${house.pictures}`,
    ...{ LIGHT_CREST_REDIS: closed, LIGHT_CREST_REDIS_CA: tls.certificate },
  });
  await until(house.crew, ({ isConnected }) => isConnected);
  work('known', { redis: closed, ca: tls.certificate });
  work('stranger', { redis: closed, ca: tls.certificate, token: 'of another server' });
  work('unsure', { redis: closed });
  await house.areThere('known');
  const end = await house.ended(await house.begun(3));
  await house.expectWhole(end, 3);
  expect(makers(end)).toEqual(new Set(['known']));
  expect((await house.crew()).workers.map(({ name }) => name)).toEqual(['known']);
});
