import { existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InboxView, PhotoView, RunDetailView, RunPlanView } from '#core/contract/http';
import { openHouse, until, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { openPdf } from '../helpers/readPdf.ts';
import { addBatch, addDelivery, addMark, finished, runToEnd, wishOf } from '../helpers/runs.ts';

/** Runs that put a batch on paper: what is planned, what is there in the end, and what if it is not. */

let test: TestHouse;
let batchId: number;
let markId: number;
let photos: string;
let out: string;

beforeAll(async () => {
  test = await openHouse();
  photos = join(test.pictures, 'photos');
  out = join(test.pictures, 'out');
  mkdirSync(photos);
  mkdirSync(out);
  for (const [seed, name] of ['a', 'b', 'c', 'd', 'e'].entries()) {
    await writeJpeg(join(photos, `${name}.jpg`), { width: 600, height: 400, seed });
  }
  batchId = await addBatch(test, photos, 'Shore');
  markId = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
});
afterAll(() => test.close());

const wishBy = (...deliveryIds: number[]) => wishOf({ batchId, deliveryIds, markId });
const PROOFS = {
  kind: 'sheet',
  name_pattern: '{batch} proofs',
  sheet: { paper: 'a5', grid: { columns: 2, rows: 2 }, caption: {} },
};
const emptied = (): void => {
  for (const name of readdirSync(out)) rmSync(join(out, name), { recursive: true });
};
const prepared = ({ run }: RunDetailView): boolean =>
  existsSync(join(test.folder, 'prepared', `${run.id}`));

describe('a run to paper', () => {
  it('tells its sheets beforehand, and makes one PDF of all photos', async () => {
    emptied();
    const delivery = await addDelivery(test, PROOFS, out);
    const plan = (await test.api.post('/api/runs/plan').send(wishBy(delivery)).expect(200))
      .body as RunPlanView;
    expect(plan).toMatchObject({ photos: 5, files: 1, problem: null });
    expect(plan.deliveries[0]).toMatchObject({
      examples: ['Shore proofs.pdf'],
      paper: { sheets: 2, width: 148, height: 210, room: 0 },
    });
    const detail = await runToEnd(test, wishBy(delivery));
    expect(detail.run).toMatchObject({ state: 'done', written: 5, failed: 0, coverItemId: null });
    const [document] = detail.run.documents;
    expect(document).toMatchObject({ written: 1, outputName: 'Shore proofs.pdf', error: null });
    expect(detail.run.bytesAfter).toBe(document.bytes);
    expect(readdirSync(out)).toEqual(['Shore proofs.pdf']);
    const pdf = await openPdf(join(out, 'Shore proofs.pdf'));
    expect([pdf.pages, pdf.title]).toEqual([2, 'Shore, Delivery']);
    expect((await pdf.page(2)).images).toHaveLength(1);
    await pdf.close();
    expect(prepared(detail)).toBe(false);
    const file = await test.api.get(`/api/runs/${detail.run.id}/documents/1`).expect(200);
    expect(file.headers['content-type']).toBe('application/pdf');
    await test.api.get(`/api/runs/${detail.run.id}/zip`).expect(200);
  });

  it('has its photos as the wall is sorted, and the numbers go by that', async () => {
    emptied();
    const { photos: all } = (await test.api.get(`/api/batches/${batchId}`).expect(200)).body as {
      photos: PhotoView[];
    };
    const ids = new Map(all.map(({ name, id }) => [name, id]));
    const order = ['e.jpg', 'b.jpg'].map((name) => ids.get(name) ?? 0);
    const sheet = { ...PROOFS.sheet, caption: { pattern: '{number} {name}' } };
    const delivery = await addDelivery(test, { ...PROOFS, sheet }, out);
    const wish = { ...wishBy(delivery), order };
    const { items } = await runToEnd(test, wish);
    // What is not named comes after, as it was.
    const names = ['e.jpg', 'b.jpg', 'a.jpg', 'c.jpg', 'd.jpg'];
    expect(items.map(({ sourceName, number }) => [number, sourceName])).toEqual(
      names.map((name, at) => [at + 1, name]),
    );
    const looked = await test.api
      .post('/api/runs/sheet')
      .send({ run: wish, delivery: 1, sheet: 1 })
      .expect(200);
    const { width } = await sharp(looked.body as Buffer).metadata();
    expect(width).toBeGreaterThan(100);
  });

  it('beside files of the same photos, as pictures, numbered', async () => {
    emptied();
    const pictures = {
      ...{ kind: 'sheet', name_pattern: '{batch}' },
      sheet: { as: 'jpeg', dpi: 100, paper: '10x15', lies: 'across' },
    };
    const sheets = await addDelivery(test, pictures, out);
    const files = await addDelivery(test, { name_pattern: '{name}', resize: { px: 300 } }, out);
    const { run, items } = await runToEnd(test, wishBy(sheets, files));
    expect(run).toMatchObject({ state: 'done', written: 10 });
    expect(readdirSync(out).sort()).toEqual(
      ['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg', 'e.jpg']
        .concat([1, 2, 3, 4, 5].map((number) => `Shore ${number}.jpg`))
        .sort(),
    );
    const { width, height } = await sharp(join(out, 'Shore 1.jpg')).metadata();
    expect([width, height]).toEqual([591, 394]);
    expect(items.filter(({ outputName }) => outputName !== null)).toHaveLength(5);
  });

  it('keeps both where its name is taken', async () => {
    emptied();
    writeFileSync(join(out, 'Shore proofs.pdf'), 'mine');
    const delivery = await addDelivery(test, PROOFS, out);
    const { run } = await runToEnd(test, wishBy(delivery));
    expect(run.documents[0].outputName).not.toBe('Shore proofs.pdf');
    expect(readdirSync(out)).toHaveLength(2);
  });

  it('leaves a photo out that cannot be opened, and is made anew with it when it can', async () => {
    emptied();
    const broken = join(photos, 'c.jpg');
    writeFileSync(broken, 'no photo');
    const delivery = await addDelivery(test, PROOFS, out);
    const first = await runToEnd(test, wishBy(delivery));
    expect(first.run).toMatchObject({ state: 'done', written: 4, failed: 1 });
    const pdf = await openPdf(join(out, 'Shore proofs.pdf'));
    expect((await pdf.page(1)).images).toHaveLength(3);
    await pdf.close();
    await writeJpeg(broken, { width: 600, height: 400, seed: 2 });
    await test.api.post(`/api/runs/${first.run.id}/retry`).expect(200);
    const again = await finished(test, first.run.id);
    expect(again.run).toMatchObject({ written: 5, failed: 0 });
    const mended = await openPdf(join(out, again.run.documents[0].outputName ?? ''));
    expect((await mended.page(1)).images).toHaveLength(4);
    await mended.close();
    expect(readdirSync(out)).toHaveLength(2);
    expect(prepared(again)).toBe(false);
  });

  it('with no room for photos on the paper is not begun, and says why', async () => {
    const narrow = { ...PROOFS, sheet: { paper: 'a6', margin: { left: 50, right: 53 } } };
    const delivery = await addDelivery(test, narrow, out);
    const plan = (await test.api.post('/api/runs/plan').send(wishBy(delivery))).body;
    expect(plan.problem).toContain('Expected room for photos');
  });

  it('that is cancelled leaves nothing', async () => {
    emptied();
    const delivery = await addDelivery(test, PROOFS, out);
    const { id } = (await test.api.post('/api/runs').send(wishBy(delivery)).expect(201)).body;
    await test.api.post(`/api/runs/${id}/cancel`).expect(200);
    const detail = await finished(test, id);
    await test.api.delete(`/api/runs/${id}`).expect(204);
    expect(prepared(detail)).toBe(false);
    expect(readdirSync(out)).toEqual([]);
  });
});

describe('a sheet that is looked at before the run', () => {
  it('is the one that the run prints, in the size of a screen', async () => {
    const delivery = await addDelivery(test, PROOFS, out);
    const ask = (sheet: number) =>
      test.api.post('/api/runs/sheet').send({ run: wishBy(delivery), delivery: 1, sheet });
    const picture = await ask(1).expect(200);
    const { width, height } = await sharp(picture.body as Buffer).metadata();
    expect(height).toBeGreaterThan(1_000);
    expect((width ?? 0) / (height ?? 1)).toBeCloseTo(148 / 210, 2);
    await ask(2).expect(422);
    expect(readdirSync(join(test.folder, 'incoming'))).toEqual([]);
  });
});

describe('a watched folder', () => {
  it('takes no delivery that needs all photos together', async () => {
    const delivery = await addDelivery(test, PROOFS, out);
    const plain = await addDelivery(test, {}, out);
    expect(delivery).not.toBe(plain);
    const preset = await test.api
      .post('/api/presets')
      .send({ name: 'Corner', rule: wishBy(plain).rule, markId })
      .expect(201);
    const body = {
      name: 'In',
      folder: photos,
      presetIds: [preset.body.id],
      deliveryIds: [delivery],
    };
    const answer = await test.api.post('/api/inboxes').send({ ...body, isOn: true });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.body.error ?? answer.text).toContain('all photos together');
  });

  it('waits where its delivery becomes such a one, and says so', async () => {
    const folder = join(test.pictures, 'watched');
    mkdirSync(folder);
    const delivery = await addDelivery(test, {}, out);
    const preset = await test.api
      .post('/api/presets')
      .send({ name: 'Corner two', rule: wishBy(delivery).rule, markId })
      .expect(201);
    const body = { name: 'Watched', folder, presetIds: [preset.body.id], deliveryIds: [delivery] };
    await test.api
      .post('/api/inboxes')
      .send({ ...body, isOn: true })
      .expect(201);
    await test.api
      .put(`/api/deliveries/${delivery}`)
      .send({ name: 'Delivery', rule: PROOFS, folder: out })
      .expect(200);
    await writeJpeg(join(folder, 'new.jpg'), { width: 300, height: 200 });
    const told = await until(
      async () => (await test.api.get('/api/inboxes')).body as InboxView[],
      ([inbox]) => inbox.problem !== null,
    );
    expect(told[0].problem).toContain('all photos together');
    expect(told[0].taken).toBe(0);
  });
});
