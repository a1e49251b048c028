import type { RunDetailView, RunWish } from '#core/contract/http';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import { until, type TestHouse } from './house.ts';

/** Steps of a run as the page takes them. */

/** A batch without photos. */
export async function newBatch(test: TestHouse, name = 'Batch'): Promise<number> {
  return (await test.api.post('/api/batches').send({ name }).expect(201)).body.id;
}

export async function addBatch(test: TestHouse, folder: string, name?: string): Promise<number> {
  const id = await newBatch(test, name);
  await test.api.post(`/api/batches/${id}/folders`).send({ path: folder }).expect(202);
  await until(
    async () => (await test.api.get(`/api/batches/${id}`)).body.reading,
    (reading) => reading === null,
  );
  return id;
}

export async function addMark(test: TestHouse, bytes: Buffer, name: string): Promise<number> {
  const answer = await test.api
    .post('/api/marks')
    .query({ name })
    .type('application/octet-stream')
    .send(bytes)
    .expect(201);
  return answer.body.id;
}

export async function addDelivery(test: TestHouse, rule: object, folder: string | null) {
  const body = { name: 'Delivery', rule, folder };
  const answer = await test.api.post('/api/deliveries').send(body).expect(201);
  return answer.body.id as number;
}

export function ruleOf(part: object): PresetRule {
  return presetRuleSchema.parse(part);
}

export function wishOf(
  part: Pick<RunWish, 'batchId' | 'deliveryIds' | 'markId'> & Partial<RunWish>,
) {
  return { presetName: 'Preset', rule: ruleOf({}), over: [], photoIds: null, order: null, ...part };
}

export async function runToEnd(test: TestHouse, wish: RunWish): Promise<RunDetailView> {
  const { id } = (await test.api.post('/api/runs').send(wish).expect(201)).body;
  return finished(test, id);
}

export function finished(test: TestHouse, id: number): Promise<RunDetailView> {
  return until(
    async () => (await test.api.get(`/api/runs/${id}`)).body as RunDetailView,
    ({ run }) => run.state === 'done' || run.state === 'cancelled',
  );
}
