import { mkdirSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { STORE_REST_MS } from '#server/workers/storage/store';
import { freePort, startStore, STORE_KEYS, type OwnProcess } from '../helpers/crew.ts';
import { CrewHouse, LEASE_MS, makers } from '../helpers/crewHouse.ts';
import { until } from '../helpers/house.ts';

/** Passes made by workers that share no folder with the server: photos and outputs go by a store. */

const STORE = 's3://studio/passes';

let house: CrewHouse;
let store: OwnProcess;
let port: number;
beforeEach(async () => {
  port = await freePort();
  house = await CrewHouse.open({
    ...STORE_KEYS,
    LIGHT_CREST_STORE: STORE,
    AWS_ENDPOINT_URL: `http://127.0.0.1:${port}`,
  });
  mkdirSync(objects());
  await open();
});
afterEach(async () => {
  await store.kill();
  await house.close();
});

const objects = (): string => join(house.folder, 'objects');
const open = async (): Promise<void> => {
  store = await startStore(objects(), port, 'studio');
};
/** The files of which it keeps objects. */
const kept = (): string[] =>
  readdirSync(join(objects(), 'studio'), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map(({ name }) => name);

it('makes each output once and whole, though workers are killed and frozen, and leaves no object', async () => {
  const count = 16;
  house.work('first');
  const second = house.work('second');
  await house.areThere('first', 'second');
  const id = await house.begun(count);
  await house.written(id, 3);
  await house.workers.get('first')?.kill();
  house.work('third');
  await house.written(id, 5);
  second.signal('SIGSTOP');
  await new Promise((done) => setTimeout(done, 3 * LEASE_MS));
  second.signal('SIGCONT');
  const end = await house.ended(id);
  await house.expectWhole(end, count);
  expect([...makers(end)].some((name) => name !== null)).toBe(true);
  // A pass that was taken over may be given up after its run has ended.
  await until(kept, (files) => files.length === 0);
});

it('keeps the dates of files on their way', async () => {
  house.work('only');
  await house.areThere('only');
  const id = await house.begun(2);
  const end = await house.ended(id);
  await house.expectWhole(end, 2);
  expect(makers(end)).toEqual(new Set(['only']));
  for (const name of readdirSync(house.photos)) {
    const output = join(house.out, name.replace('.jpg', '-marked.jpg'));
    const apart = statSync(output).mtimeMs - statSync(join(house.photos, name)).mtimeMs;
    expect(Math.abs(apart)).toBeLessThan(1_000);
  }
});

it('goes on without a store that is gone, and tells a worker that does not reach it', async () => {
  house.work('apart', { env: {} });
  await house.hasProblem('apart', `--store ${STORE}/`);
  house.work('only');
  await house.areThere('only');
  const id = await house.begun(8);
  await house.written(id, 2);
  await store.kill();
  const end = await house.ended(id);
  await house.expectWhole(end, 8);
  expect(makers(end)).toContain(null);
  expect((await house.crew()).storeProblem).not.toBeNull();
  await open();
  await new Promise((done) => setTimeout(done, STORE_REST_MS));
  const again = await house.ended(await house.begun(9));
  expect(again.run).toMatchObject({ written: 9, failed: 0 });
  expect(makers(again)).toContain('only');
  expect((await house.crew()).storeProblem).toBeNull();
  // With what was left of the first run, too.
  await until(kept, (files) => files.length === 0);
});
