import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { BatchView, MarkSetView, PresetView, RunPlanView } from '#core/contract/http';
import type { ReadingView } from '#core/contract/readability';
import { openHouse, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, ruleOf, runToEnd, wishOf } from '../helpers/runs.ts';

/** Several marks on each photo: kept with the batch, adjusted apart, exported over each other. */

let test: TestHouse;
let batchId: number;
let markId: number;
let photoIds: number[];
let out: string;
beforeAll(async () => {
  test = await openHouse();
  const folder = join(test.pictures, 'dark');
  out = join(test.pictures, 'out');
  mkdirSync(folder);
  mkdirSync(out);
  const create = { width: 600, height: 400, channels: 3, background: '#202020' } as const;
  for (const name of ['a.png', 'b.png']) await sharp({ create }).toFile(join(folder, name));
  batchId = await addBatch(test, folder);
  const { photos } = (await test.api.get(`/api/batches/${batchId}`)).body;
  photoIds = photos.map(({ id }: { id: number }) => id);
  const added = await test.api
    .post('/api/marks')
    .query({ name: 'mark.svg' })
    .type('application/octet-stream')
    .send(Buffer.from(MARK_SVG));
  markId = added.body.id;
});
afterAll(() => test.close());

const LOW = ruleOf({ tone: { tone: '#ff0000' }, opacity: 1, anchor: 'bottom-left' });
const HIGH = ruleOf({ tone: { tone: '#00ff00' }, opacity: 1, anchor: 'top-right' });

async function preset(name: string, rule: object): Promise<PresetView> {
  return (await test.api.post('/api/presets').send({ name, markId, rule }).expect(201)).body;
}

/** Where pixels of a colour lie in an output, as shares of its width and height; null: there are none. */
async function placeOf(name: string, channel: number) {
  const { data, info } = await sharp(join(out, name)).raw().toBuffer({ resolveWithObject: true });
  let [x, y, count] = [0, 0, 0];
  for (let at = 0; at < data.length; at += info.channels) {
    const others = Math.max(data[at + ((channel + 1) % 3)], data[at + ((channel + 2) % 3)]);
    if (data[at + channel] < 200 || others > 90) continue;
    x += (at / info.channels) % info.width;
    y += Math.floor(at / info.channels / info.width);
    count++;
  }
  return count > 0 ? { x: x / count / info.width, y: y / count / info.height } : null;
}

it('are kept with the batch, and exported in their order, each adjusted apart', async () => {
  const low = await preset('Low', LOW);
  const high = await preset('High', HIGH);
  const beside = { at: 0, marks: [{ presetId: high.id, placing: null }] };
  await test.api.patch(`/api/batches/${batchId}`).send({ presetId: low.id, beside }).expect(200);
  const { batch } = (await test.api.get(`/api/batches/${batchId}`)).body as { batch: BatchView };
  expect(batch.beside).toEqual(beside);

  // On the second photo the mark above is moved by hand; the first mark stays.
  const adjustment = { over: { [high.id]: { anchor: 'top-left' } } };
  const change = { photoId: photoIds[1], adjustment };
  await test.api
    .put(`/api/batches/${batchId}/adjustments`)
    .send({ changes: [change] })
    .expect(204);

  const over = [{ presetId: high.id, presetName: 'High', markId, rule: HIGH }];
  const png = { resize: null, file: { type: 'png' }, name_pattern: '{name}' };
  const deliveryIds = [await addDelivery(test, png, out)];
  const wish = wishOf({ batchId, markId, deliveryIds, rule: LOW, over });
  const plan = (await test.api.post('/api/runs/plan').send(wish)).body as RunPlanView;
  expect(plan.problem).toBeNull();
  const { run, items } = await runToEnd(test, wish);
  expect(items.map(({ status }) => status)).toEqual(['written', 'written']);
  expect(run.presetName).toContain('+ High');
  expect(items.every(({ readBack }) => readBack?.problem === null)).toBe(true);

  const first = { red: await placeOf('a.png', 0), green: await placeOf('a.png', 1) };
  expect(first.red?.x).toBeLessThan(0.3);
  expect(first.red?.y).toBeGreaterThan(0.7);
  expect(first.green?.x).toBeGreaterThan(0.7);
  expect(first.green?.y).toBeLessThan(0.3);
  const second = { red: await placeOf('b.png', 0), green: await placeOf('b.png', 1) };
  expect(second.red).toEqual(first.red);
  expect(second.green?.x).toBeLessThan(0.3);
  expect(second.green?.y).toBeLessThan(0.3);
});

it('that a delivery with a preset of its own is not given', async () => {
  const own = await preset('Own', ruleOf({ tone: { tone: '#0000ff' }, opacity: 1 }));
  const high = await preset('High again', HIGH);
  const over = [{ presetId: high.id, presetName: 'High', markId, rule: HIGH }];
  const png = { resize: null, file: { type: 'png' }, existing: 'replace' };
  const plain = await addDelivery(test, { ...png, name_pattern: '{name}-all' }, out);
  const alone = await addDelivery(test, { ...png, name_pattern: '{name}-own' }, out);
  const delivery = (await test.api.get('/api/deliveries')).body.find(
    ({ id }: { id: number }) => id === alone,
  );
  const { name, rule, folder, version } = delivery;
  await test.api
    .put(`/api/deliveries/${alone}`)
    .send({ name, rule, folder, presetId: own.id, baseVersion: version })
    .expect(200);
  const deliveryIds = [plain, alone];
  await runToEnd(test, wishOf({ batchId, markId, deliveryIds, rule: LOW, over }));
  expect(await placeOf('a-all.png', 1)).not.toBeNull();
  expect(await placeOf('a-own.png', 1)).toBeNull();
  expect(await placeOf('a-own.png', 2)).not.toBeNull();
});

it('are laid by a delivery that has several of its own, under those names', async () => {
  const red = await preset('Red', LOW);
  const green = await preset('Green', HIGH);
  const blue = await preset('Blue', ruleOf({ tone: { tone: '#0000ff' }, opacity: 1 }));
  const png = { resize: null, file: { type: 'png' }, existing: 'replace' };
  const plain = await addDelivery(test, { ...png, name_pattern: '{name}-plain' }, out);
  const wish = { name: 'Two', rule: { ...png, name_pattern: '{name}-two' }, folder: out };
  const made = await test.api
    .post('/api/deliveries')
    .send({ ...wish, presetId: red.id, overIds: [green.id] })
    .expect(201);
  expect(made.body.overIds).toEqual([green.id]);
  await test.api
    .post('/api/deliveries')
    .send({ ...wish, presetId: red.id, overIds: [9_999] })
    .expect(422);
  const deliveryIds = [plain, made.body.id];
  const rule = ruleOf({ tone: { tone: '#0000ff' }, opacity: 1 });
  const run = wishOf({ batchId, markId, deliveryIds, rule, presetId: blue.id });
  const plan = (await test.api.post('/api/runs/plan').send(run)).body as RunPlanView;
  expect(plan.deliveries.map((one) => one.preset)).toEqual([run.presetName, 'Red + Green']);
  await runToEnd(test, run);
  expect(await placeOf('a-plain.png', 0)).toBeNull();
  expect(await placeOf('a-plain.png', 2)).not.toBeNull();
  expect((await placeOf('a-two.png', 0))?.x).toBeLessThan(0.3);
  expect((await placeOf('a-two.png', 1))?.x).toBeGreaterThan(0.7);
  expect(await placeOf('a-two.png', 2)).toBeNull();
  // It is told who uses a preset, wherever that stands in the list.
  const refused = await test.api.delete(`/api/presets/${green.id}`);
  expect([refused.status, refused.body.message]).toEqual([409, expect.stringContaining('Two')]);
});

it('are kept as a set, without what is gone', async () => {
  const [one, two, three] = await Promise.all(['1', '2', '3'].map((name) => preset(name, LOW)));
  const wish = { name: 'Both', presetIds: [two.id, one.id, three.id] };
  const set = (await test.api.post('/api/sets').send(wish).expect(201)).body as MarkSetView;
  expect(set.presetIds).toEqual([two.id, one.id, three.id]);
  await test.api.delete(`/api/presets/${one.id}`).expect(204);
  expect((await test.api.get('/api/sets')).body).toEqual([
    { ...set, presetIds: [two.id, three.id] },
  ]);
  await test.api
    .post('/api/sets')
    .send({ ...wish, presetIds: [9_999, two.id] })
    .expect(422);
  await test.api.delete(`/api/sets/${set.id}`).expect(204);
  expect((await test.api.get('/api/sets')).body).toEqual([]);
});

it('keep their artwork as long as a run is listed that has them', async () => {
  const added = await test.api
    .post('/api/marks')
    .query({ name: 'other.svg' })
    .type('application/octet-stream')
    .send(Buffer.from(MARK_SVG));
  const over = [{ presetId: 1, presetName: 'Gone', markId: added.body.id, rule: HIGH }];
  const png = { file: { type: 'png' }, name_pattern: '{name}-kept' };
  const deliveryIds = [await addDelivery(test, png, out)];
  await runToEnd(test, wishOf({ batchId, markId, deliveryIds, rule: LOW, over }));
  const refused = await test.api.delete(`/api/marks/${added.body.id}`);
  expect(refused.status).toBe(409);
});

/** A mark of lettering alone. */
async function saying(text: string): Promise<number> {
  const lettering = { text, font: { family: 'montserrat', weight: 500 } };
  const design = { layers: [{ id: 'w', kind: 'lettering', name: 'Words', lettering }] };
  return (await test.api.post('/api/designs').send({ name: text, design }).expect(201)).body.id;
}

it('leave out on a photo what says nothing there, and are told of letters that a font lacks', async () => {
  const named = await addBatch(test, join(test.pictures, 'dark'), '港の');
  const [{ id: photoId }] = (await test.api.get(`/api/batches/${named}`)).body.photos;
  const [caption, batch] = [await saying('{caption}'), await saying('{batch}')];
  const read = async (...ids: number[]): Promise<ReadingView> => {
    const marks = ids.map((id) => ({ markId: id, rule: LOW }));
    const photos = [{ photoId, number: 1, marks }];
    const wish = { resize: null, photos };
    return (await test.api.post('/api/readings').send(wish).expect(200)).body[0];
  };
  const beside = await read(markId, caption);
  expect(beside.marks.map(({ isEmpty }) => isEmpty)).toEqual([false, true]);
  expect(beside.marks[0].readability?.class).toBe('clear');
  expect(beside.wordsNote).toBe(
    'It has nothing for {caption}, so a mark of nothing else is left out.',
  );
  const alone = await read(caption);
  expect(alone.marks[0].isEmpty).toBe(true);
  expect(alone.wordsNote).toMatch(/^a\.png has nothing for \{caption\}/);
  const lettered = await read(batch);
  expect(lettered).toMatchObject({ lacksLetters: true, problem: null });
  expect(lettered.wordsNote).toMatch(/no letters for “港の”/);
  expect(await read(markId)).toMatchObject({ wordsNote: null, lacksLetters: false });
});
