import { execFile } from 'node:child_process';
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RunDetailView, RunPlanView, RunView, TryView } from '#core/contract/http';
import { lockData } from '#server/storage/dataLock';
import { openHouse, until, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, scene, writeCameraJpeg, writeJpeg } from '../helpers/makePhoto.ts';
import {
  addBatch,
  addDelivery,
  addMark,
  finished,
  ruleOf,
  runToEnd,
  wishOf,
} from '../helpers/runs.ts';

/** What is round a run: before it, beside others, and after it. */

let test: TestHouse;
let photos: string;
let batchId: number;
let markId: number;
let out: string;

beforeAll(async () => {
  test = await openHouse();
  photos = join(test.pictures, 'photos');
  out = join(test.pictures, 'out');
  mkdirSync(photos);
  mkdirSync(out);
  await writeCameraJpeg(join(photos, 'a.jpg'), { width: 900, height: 600, orientation: 6 });
  await writeJpeg(join(photos, 'b.jpg'), { width: 800, height: 500, seed: 2 });
  await scene({ width: 700, height: 400, seed: 3 }).png().toFile(join(photos, 'c.png'));
  batchId = await addBatch(test, photos, 'Shore');
  markId = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
});
afterAll(() => test.close());

const wishBy = (...deliveryIds: number[]) => wishOf({ batchId, deliveryIds, markId });
const byName = (name: string) => `{name}-${name}`;
const settings = (part: object) => test.api.put('/api/settings').send(part).expect(200);

describe('reading back', () => {
  it('is stored with each output, whatever its type, unless it is switched off', async () => {
    const types = ['jpeg', 'png', 'webp', 'tiff'];
    const deliveries: number[] = [];
    for (const type of types) {
      deliveries.push(await addDelivery(test, { name_pattern: byName(type), file: { type } }, out));
    }
    const { items } = await runToEnd(test, wishBy(...deliveries));
    expect(items).toHaveLength(12);
    for (const { readBack } of items) {
      expect(readBack).toMatchObject({ decodes: true, problem: null, mark: { found: true } });
    }
    await settings({ readsBack: false });
    const off = await runToEnd(test, wishBy(deliveries[0]));
    expect(off.items.map(({ readBack }) => readBack)).toEqual([null, null, null]);
    await settings({ readsBack: true });
  });
});

describe('untouched photos of a run', () => {
  it('stay so, and those that cannot take quality 95 and say why', async () => {
    const rule = { resize: null, name_pattern: byName('kept'), file: { quality: 'untouched' } };
    const { items } = await runToEnd(test, wishBy(await addDelivery(test, rule, out)));
    expect(items.map(({ note }) => note)).toEqual([
      null,
      null,
      'It could not go out untouched (it is not a JPEG), so it has quality 95.',
    ]);
    expect(items.every(({ readBack }) => readBack?.problem === null)).toBe(true);
    expect((await sharp(join(out, 'a-kept.jpg')).metadata()).orientation).toBe(6);
    expect((await sharp(join(out, 'c-kept.jpg')).metadata()).format).toBe('jpeg');
  });
});

describe('a folder below the one that was chosen', () => {
  const chosen = async (subfolder: string, folder = out) => {
    const body = { name: 'Sorted', rule: { name_pattern: '{name}' }, folder, subfolder };
    return (await test.api.post('/api/deliveries').send(body).expect(201)).body.id as number;
  };

  it('has the name of the batch or of the day, and is made when the run writes', async () => {
    const plan = await test.api
      .post('/api/runs/plan')
      .send(wishBy(await chosen('batch')))
      .expect(200);
    expect(plan.body).toMatchObject({
      problem: null,
      deliveries: [{ folder: join(out, 'Shore') }],
    });
    expect(readdirSync(out)).not.toContain('Shore');
    await runToEnd(test, wishBy(await chosen('batch')));
    expect(readdirSync(join(out, 'Shore')).sort()).toEqual(['a.jpg', 'b.jpg', 'c.jpg']);
    const { run } = await runToEnd(test, wishBy(await chosen('date')));
    expect(run.deliveries[0].folder).toMatch(/out\/\d{4}-\d\d-\d\d$/);
    expect(readdirSync(run.deliveries[0].folder)).toHaveLength(3);
  });

  it('is not made where the chosen one is away', async () => {
    const away = join(test.pictures, 'a disk');
    mkdirSync(away);
    const delivery = await chosen('batch', away);
    rmSync(away, { recursive: true });
    const plan = await test.api.post('/api/runs/plan').send(wishBy(delivery)).expect(200);
    expect(plan.body.problem).toContain('is not there');
  });
});

describe('before a run', () => {
  it('the plan tells of room on the disk, and of names that are the same', async () => {
    const delivery = await addDelivery(test, { name_pattern: '{batch}' }, out);
    const plan: RunPlanView = (await test.api.post('/api/runs/plan').send(wishBy(delivery))).body;
    expect(plan.deliveries[0].sameNames).toBe(2);
    expect(plan.disks).toHaveLength(1);
    expect(plan.disks[0].neededBytes).toBe(plan.estimatedBytes);
    expect(plan.disks[0].freeBytes).toBeGreaterThan(0);
  });

  it('a delivery is tried on one photo: the file has the bytes that a run writes', async () => {
    const rule = { name_pattern: byName('tried'), file: { quality: 77 } };
    const delivery = await addDelivery(test, rule, out);
    const preset = { name: 'Some', markId, rule: { size: { value: 30 } } };
    const { id: presetId } = (await test.api.post('/api/presets').send(preset).expect(201)).body;
    await test.api.patch(`/api/batches/${batchId}`).send({ presetId }).expect(200);
    const { photos: all } = (await test.api.get(`/api/batches/${batchId}`)).body;
    const [photo] = all;
    const answer = await test.api
      .post(`/api/deliveries/${delivery}/try`)
      .send({ photoId: photo.id })
      .expect(200);
    const tried: TryView = answer.body;
    expect(tried).toMatchObject({ name: 'a-tried.jpg', problem: null, bytesBefore: photo.bytes });
    const wish = { ...wishBy(delivery), presetId, photoIds: [photo.id] };
    const { items } = await runToEnd(
      test,
      wishOf({ ...wish, rule: (await presetOf(presetId)).rule }),
    );
    expect(items[0].bytesAfter).toBe(tried.bytesAfter);
    const after = await test.api.get(`/api/tries/${tried.key}/after`).expect(200);
    expect(after.body.equals(readFileSync(join(out, 'a-tried.jpg')))).toBe(true);
    const before = await test.api.get(`/api/tries/${tried.key}/before`).expect(200);
    const { width, height } = await sharp(before.body).metadata();
    expect({ width, height }).toEqual(tried.frame);
    // Nothing of it lies where outputs go, and what is gone is said to be.
    expect(readdirSync(out).filter((name) => name.includes('tried'))).toEqual(['a-tried.jpg']);
    const unknown = '00000000-0000-4000-8000-000000000000';
    await test.api.get(`/api/tries/${unknown}/after`).expect(404);
    await test.api.post('/api/deliveries/9999/try').send({ photoId: photo.id }).expect(404);
  });

  it('it is tried with its own preset, but with what the wall shows where the wall shows it', async () => {
    const named = async (name: string, value: number) => {
      const preset = { name, markId, rule: { size: { value } } };
      return (await test.api.post('/api/presets').send(preset).expect(201)).body.id as number;
    };
    const presetId = await named('Of the delivery', 10);
    const own = { name: 'With its own', rule: {}, folder: out, presetId };
    const delivery = (await test.api.post('/api/deliveries').send(own).expect(201)).body.id;
    const { photos: all, batch: before } = (await test.api.get(`/api/batches/${batchId}`)).body;
    const onBatch = (part: object) =>
      test.api.patch(`/api/batches/${batchId}`).send(part).expect(200);
    const markWidth = async (): Promise<number> => {
      const body = { photoId: all[0].id };
      const { body: tried } = await test.api.post(`/api/deliveries/${delivery}/try`).send(body);
      return tried.markBox.width;
    };
    await onBatch({ presetId: await named('Of the wall', 40), deliveryIds: [] });
    const alone = await markWidth();
    await onBatch({ deliveryIds: [delivery] });
    expect((await markWidth()) / alone).toBeCloseTo(4, 1);
    const unsaved = { markId, rule: ruleOf({ size: { value: 20 } }), base: 0 };
    await onBatch({ presetId: null, placing: unsaved });
    expect((await markWidth()) / alone).toBeCloseTo(2, 1);
    const { deliveryIds, placing } = before;
    await onBatch({ presetId: before.presetId, deliveryIds, placing });
  });

  const presetOf = async (id: number) =>
    (await test.api.get('/api/presets')).body.find((preset: { id: number }) => preset.id === id);

  it('only the last files that were tried are kept', async () => {
    const delivery = await addDelivery(test, {}, out);
    const { photos: all } = (await test.api.get(`/api/batches/${batchId}`)).body;
    for (let tries = 0; tries < 7; tries++) {
      await test.api.post(`/api/deliveries/${delivery}/try`).send({ photoId: all[0].id });
    }
    const left = readdirSync(join(test.folder, 'incoming')).filter((name) => /^try/.test(name));
    expect(left).toHaveLength(4);
  });
});

describe('several runs', () => {
  it('are worked off in an order that can be changed', async () => {
    const folder = join(test.pictures, 'many');
    mkdirSync(folder);
    for (let at = 0; at < 12; at++) copyFileSync(join(photos, 'b.jpg'), join(folder, `${at}.jpg`));
    const many = await addBatch(test, folder, 'Many');
    const rule = { name_pattern: '{name} {number}', resize: null, file: { type: 'webp' } };
    const delivery = await addDelivery(test, rule, out);
    const begin = async (): Promise<RunView> =>
      (
        await test.api
          .post('/api/runs')
          .send(wishOf({ batchId: many, deliveryIds: [delivery], markId }))
      ).body;
    const runs = [await begin(), await begin(), await begin()];
    const ids = [runs[2].id, runs[1].id, runs[0].id];
    await test.api.post('/api/runs/order').send({ ids }).expect(204);
    const now: RunView[] = (await test.api.get('/api/runs')).body;
    const turns = ids.map((id) => now.find((run) => run.id === id)?.turn ?? NaN);
    expect(turns).toEqual([...turns].sort((a, b) => a - b));
    const ended = await Promise.all(ids.map((id) => finished(test, id)));
    const ends = ended.map(({ run }) => String(run.finishedAt));
    expect(ends).toEqual([...ends].sort());
    await test.api
      .post('/api/runs/order')
      .send({ ids: [9_999] })
      .expect(204);
    await test.api.post('/api/runs/order').send({ ids: [] }).expect(400);
  });
});

describe('after a run', () => {
  it('photos that came since go out the same way, at one call', async () => {
    const folder = join(test.pictures, 'growing');
    mkdirSync(folder);
    copyFileSync(join(photos, 'b.jpg'), join(folder, 'one.jpg'));
    const growing = await addBatch(test, folder, 'Growing');
    const delivery = await addDelivery(test, { name_pattern: byName('grown') }, out);
    const first = await runToEnd(
      test,
      wishOf({ batchId: growing, deliveryIds: [delivery], markId }),
    );
    expect(first.addedSince).toBe(0);
    await test.api.post(`/api/runs/${first.run.id}/again`).expect(422);
    await writeJpeg(join(folder, 'two.jpg'), { width: 640, height: 480, seed: 5 });
    await test.api.post(`/api/batches/${growing}/folders`).send({ path: folder }).expect(202);
    await until(
      async () => (await test.api.get(`/api/runs/${first.run.id}`)).body.addedSince,
      (added) => added === 1,
    );
    const again = (await test.api.post(`/api/runs/${first.run.id}/again`).expect(201)).body;
    const { items } = await finished(test, again.id);
    expect(items.map(({ outputName }) => outputName)).toEqual(['two-grown.jpg']);
  });

  it('the photo before is there in the size of its output, and all as a sheet of contacts', async () => {
    const rule = { name_pattern: 'Ærø 東 {name}', resize: { px: 500 } };
    const { run, items } = await runToEnd(test, wishBy(await addDelivery(test, rule, out)));
    const before = await test.api.get(`/api/outputs/${items[0].id}/before`).expect(200);
    const { width, height } = await sharp(before.body).metadata();
    expect({ width, height }).toEqual(items[0].frame);
    const sheet = await test.api.get(`/api/runs/${run.id}/contacts`).buffer(true).expect(200);
    expect(sheet.headers['content-disposition']).toContain('contacts.pdf');
    const pdf = await PDFDocument.load(sheet.body);
    expect(pdf.getPageCount()).toBe(1);
    expect(pdf.getTitle()).toBe('Shore');
    rmSync(join(photos, 'b.jpg'));
    await test.api.get(`/api/outputs/${items[1].id}/before`).expect(422);
    await writeJpeg(join(photos, 'b.jpg'), { width: 800, height: 500, seed: 2 });
  });
});

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));

function call(data: string, ...words: string[]) {
  const env = { ...process.env, LIGHT_CREST_DATA: data, LIGHT_CREST_FOLDERS: test.pictures };
  return new Promise<{ status: number; out: string; err: string }>((done) => {
    execFile(BIN, words, { env }, (error, stdout, stderr) => {
      done({ status: error ? Number(error.code) : 0, out: stdout, err: stderr });
    });
  });
}

describe('light-crest run', () => {
  it('exports a batch of the data, by a server that has it open or by its own', async () => {
    const rule = { name_pattern: byName('called'), file: { quality: 60 } };
    const body = { name: 'Called', rule, folder: out };
    await test.api.post('/api/deliveries').send(body).expect(201);
    const lock = lockData(test.folder);
    if ('heldBy' in lock) throw new Error('the data is locked');
    await lock.setAddress(`http://127.0.0.1:${test.port}`);
    const shared = await call(test.folder, 'run', 'Shore', '--delivery', 'Called', '--json');
    expect(shared).toMatchObject({ status: 0, err: '' });
    const lines = shared.out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(lines).toHaveLength(3);
    expect(lines[0]).toEqual({
      ...{ source: 'a.jpg', delivery: 'Called', output: join(out, 'a-called.jpg') },
      ...{ status: 'written', error: null, verified: true },
    });
    expect(await call(test.folder, 'run', 'Nowhere')).toMatchObject({
      status: 2,
      err: expect.stringContaining('There is no batch "Nowhere". There are:'),
    });
    lock.release();

    await test.end();
    const own = await call(test.folder, 'run', 'Shore', '--delivery', 'Called');
    expect(own).toMatchObject({ status: 0, err: '' });
    expect(own.out.trim().split('\n')).toContain(join(out, 'a-called-2.jpg'));
    writeFileSync(join(photos, 'b.jpg'), 'no photo any more');
    const bad = await call(test.folder, 'run', 'Shore', '--delivery', 'Called');
    expect(bad.status).toBe(1);
    expect(bad.err).toContain('light-crest: b.jpg: b.jpg is not a photo that can be read');
    test = await openHouse({ folder: test.folder, pictures: test.pictures });
  });

  it('lays what its bench holds for the delivery that is shown there, else what each has', async () => {
    const own = { name: 'High up', markId, rule: ruleOf({ anchor: 'top' }) };
    const { id: presetId } = (await test.api.post('/api/presets').send(own).expect(201)).body;
    const rule = { name_pattern: byName('laid'), existing: 'replace' };
    const body = { name: 'High', rule, presetId, folder: out };
    const { id } = (await test.api.post('/api/deliveries').send(body).expect(201)).body;
    const shore = `/api/batches/${batchId}`;
    const anchorsOf = async (): Promise<unknown[]> => {
      await test.end();
      const { status } = await call(test.folder, 'run', 'Shore', '--delivery', 'High');
      expect(status).toBe(0);
      test = await openHouse({ folder: test.folder, pictures: test.pictures });
      const [{ id: runId }] = (await test.api.get('/api/runs')).body;
      const { items } = (await test.api.get(`/api/runs/${runId}`)).body as RunDetailView;
      return items.map(({ placement }) => placement?.anchor);
    };
    await writeJpeg(join(photos, 'b.jpg'), { width: 800, height: 500, seed: 2 });
    await test.api.patch(shore).send({ deliveryIds: [] }).expect(200);
    expect(new Set(await anchorsOf())).toEqual(new Set(['top']));
    await test.api
      .patch(shore)
      .send({ deliveryIds: [id] })
      .expect(200);
    expect(await anchorsOf()).not.toContain('top');
  });

  it('tells the documents of all photos, and one that could not be had is a failure', async () => {
    await writeJpeg(join(photos, 'b.jpg'), { width: 800, height: 500, seed: 2 });
    const rule = { kind: 'sheet', name_pattern: 'proofs', existing: 'replace', sheet: {} };
    const body = { name: 'On paper', rule, folder: out };
    await test.api.post('/api/deliveries').send(body).expect(201);
    await test.end();
    const words = ['run', 'Shore', '--delivery', 'On paper'];
    const made = await call(test.folder, ...words);
    expect(made).toEqual({ status: 0, out: `${join(out, 'proofs.pdf')}\n`, err: '' });
    rmSync(join(out, 'proofs.pdf'));
    mkdirSync(join(out, 'proofs.pdf'));
    const failed = await call(test.folder, ...words, '--json');
    expect(failed.status).toBe(1);
    expect(JSON.parse(failed.out)).toMatchObject({
      ...{ source: null, delivery: 'On paper', output: null, status: 'failed' },
      error: expect.stringContaining('proofs.pdf'),
    });
    expect(failed.err).toContain('light-crest: On paper: ');
    rmSync(join(out, 'proofs.pdf'), { recursive: true });
    test = await openHouse({ folder: test.folder, pictures: test.pictures });
  });
});
