import { afterAll, beforeAll, expect, it } from 'vitest';
import type {
  BatchView,
  ExamplesView,
  FolderView,
  MarkView,
  PresetView,
} from '#core/contract/http';
import { EXAMPLE_BATCH, EXAMPLE_PHOTOS } from '#demo/examples';
import { openHouse, type TestHouse } from '../helpers/house.ts';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.close());

const get = async <T>(path: string): Promise<T> => (await test.api.get(`/api${path}`)).body as T;
const photoCount = async (): Promise<number> =>
  (await get<BatchView[]>('/batches')).reduce((sum, batch) => sum + batch.photoCount, 0);

it('are laid out once, however often they are asked for, and read where they were installed', async () => {
  const [first, second] = await Promise.all([
    test.api.post('/api/examples'),
    test.api.post('/api/examples'),
  ]);
  expect([first.status, second.status], first.body.message).toEqual([201, 201]);
  expect(second.body).toEqual(first.body);
  const { batchId } = first.body as ExamplesView;
  await expect.poll(photoCount, { timeout: 60_000 }).toBe(24);
  expect((await get<BatchView[]>('/batches')).map(({ id, name }) => [id, name])).toEqual([
    [batchId, EXAMPLE_BATCH],
  ]);
  const [photo] = test.house.tables.photos.ofBatch(batchId ?? 0);
  expect(photo).toMatchObject({ origin: 'in-place' });
  expect(photo.path.startsWith(EXAMPLE_PHOTOS)).toBe(true);
  // Nobody chooses it as a place for files.
  expect((await get<FolderView>('/folders')).folders.map(({ path }) => path)).not.toContain(
    EXAMPLE_PHOTOS,
  );
});

it('that are exported are kept until the run has ended, then go with all that came with them', async () => {
  const { batchId } = await get<ExamplesView>('/examples');
  const [mark] = await get<MarkView[]>('/marks');
  const own = await test.api
    .post('/api/marks')
    .query({ name: 'own.svg' })
    .type('text/plain')
    .send('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>');
  expect(own.status).toBe(201);
  const delivery = await test.api
    .post('/api/deliveries')
    .send({ name: 'D', rule: { resize: { px: 200 } }, folder: null });
  const run = await test.api.post('/api/runs').send({
    ...{ batchId, deliveryIds: [delivery.body.id], markId: mark.id, presetName: 'P', rule: {} },
  });
  expect(run.status, run.body.message).toBe(201);
  const refused = await test.api.delete('/api/examples');
  expect(refused.status).toBe(409);
  expect(refused.body.message).toContain('A run still exports');
  await expect
    .poll(() => test.house.tables.runs.get(run.body.id)?.state, { timeout: 60_000 })
    .toBe('done');
  expect((await test.api.delete('/api/examples')).status).toBe(204);
  expect(await get<PresetView[]>('/presets')).toEqual([]);
  // One that a run was made with stays with it.
  const left = (await get<MarkView[]>('/marks')).map(({ id }) => id).sort();
  expect(left).toEqual([mark.id, own.body.id].sort());
  expect(await get<ExamplesView>('/examples')).toEqual({ isThere: false, batchId: null });
  expect((await test.house.allowed.resolve(EXAMPLE_PHOTOS)).ok).toBe(false);
  expect((await test.api.delete('/api/examples')).status).toBe(422);
});

it('come again, also where only their batch was deleted', async () => {
  const first = (await test.api.post('/api/examples')).body as ExamplesView;
  expect((await test.api.delete(`/api/batches/${first.batchId}`)).status).toBe(204);
  expect(await get<ExamplesView>('/examples')).toEqual({ isThere: true, batchId: null });
  const again = (await test.api.post('/api/examples')).body as ExamplesView;
  expect(again.batchId).not.toBe(first.batchId);
  const names = (await get<PresetView[]>('/presets')).map(({ name }) => name);
  expect(names.filter((name) => / \d$/.test(name))).toEqual([]);
  await test.api.delete('/api/examples');
});
