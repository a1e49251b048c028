import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BinEntry, DeliveryView, EarlierVersion, PresetView } from '#core/contract/http';
import { BIN_DAYS } from '#server/bin';
import { openHouse, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, addMark, ruleOf } from '../helpers/runs.ts';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
  await writeJpeg(join(test.pictures, 'a.jpg'), { width: 60, height: 40 });
  await writeJpeg(join(test.pictures, 'b.jpg'), { width: 60, height: 40 });
});
afterAll(() => test.close());

const SVG = Buffer.from(MARK_SVG);
const bin = async (): Promise<BinEntry[]> => (await test.api.get('/api/bin')).body;
const putBack = (kind: string, id: number) => test.api.post(`/api/bin/${kind}/${id}/put-back`);
const names = async (kind: string): Promise<string[]> =>
  (await test.api.get(`/api/${kind}`)).body.map(({ name }: { name: string }) => name);

async function addPreset(name: string, markId: number): Promise<PresetView> {
  return (await test.api.post('/api/presets').send({ name, markId, rule: {} }).expect(201)).body;
}

describe('what was deleted', () => {
  it('is listed with the days it has left, and comes back as it was', async () => {
    const mark = await addMark(test, SVG, 'Crest.svg');
    await test.api.delete(`/api/marks/${mark}`).expect(204);
    expect(await names('marks')).not.toContain('Crest');
    expect(await bin()).toMatchObject([
      { kind: 'marks', id: mark, name: 'Crest', daysLeft: BIN_DAYS },
    ]);
    await putBack('marks', mark).expect(200);
    expect(await names('marks')).toContain('Crest');
    expect(await bin()).toEqual([]);
    const picture = { version: 1, tone: 'original', width: 96 };
    await test.api.get(`/api/marks/${mark}/raster`).query(picture).expect(200);
    // It is there: a second click, or another window, is told so.
    await putBack('marks', mark).expect(422);
  });

  it('keeps its name free for others, and has one of its own when it is back', async () => {
    const mark = await addMark(test, SVG, 'Twin.svg');
    const first = await addPreset('Low right', mark);
    await test.api.delete(`/api/presets/${first.id}`).expect(204);
    await addPreset('Low right', mark);
    await putBack('presets', first.id).expect(200);
    expect((await names('presets')).filter((name) => name.startsWith('Low right')).sort()).toEqual([
      'Low right',
      'Low right 2',
    ]);
  });

  it('brings back what it cannot be without, and does not name what is gone', async () => {
    const mark = await addMark(test, SVG, 'Seal.svg');
    const preset = await addPreset('Sealed', mark);
    const delivery = await addDelivery(test, {}, null);
    const wish = { name: 'Sealed web', presetId: preset.id, rule: {} };
    await test.api.put(`/api/deliveries/${delivery}`).send(wish).expect(200);
    await test.api.delete(`/api/deliveries/${delivery}`).expect(204);
    await test.api.delete(`/api/presets/${preset.id}`).expect(204);
    await test.api.delete(`/api/marks/${mark}`).expect(204);
    await putBack('deliveries', delivery).expect(200);
    const deliveries: DeliveryView[] = (await test.api.get('/api/deliveries')).body;
    expect(deliveries.find(({ id }) => id === delivery)?.presetId).toBeNull();
    await putBack('presets', preset.id).expect(200);
    expect(await names('marks')).toContain('Seal');
  });

  it('photos of a batch lie there together and go back into it', async () => {
    const batch = await addBatch(test, test.pictures, 'Shore');
    const opened = async () => (await test.api.get(`/api/batches/${batch}`)).body;
    const ids = (await opened()).photos.map(({ id }: { id: number }) => id);
    await test.api
      .put(`/api/batches/${batch}/adjustments`)
      .send({ changes: [{ photoId: ids[0], adjustment: { opacity: 0.3 } }] })
      .expect(204);
    await test.api.post(`/api/batches/${batch}/photos/remove`).send({ ids }).expect(204);
    expect((await opened()).photos).toEqual([]);
    const [entry] = await bin();
    expect([entry.kind, entry.name]).toEqual(['batches', '2 photos of Shore']);
    await putBack('batches', entry.id).expect(200);
    expect((await opened()).photos).toHaveLength(2);
    expect((await opened()).adjustments).toEqual([
      { photoId: ids[0], adjustment: { opacity: 0.3 } },
    ]);
    // Without the batch they came from they are one of their own.
    await test.api.post(`/api/batches/${batch}/photos/remove`).send({ ids }).expect(204);
    await test.api.delete(`/api/batches/${batch}`).expect(204);
    const photos = (await bin()).find(({ name }) => name.startsWith('2 photos'));
    await putBack('batches', photos?.id ?? 0).expect(200);
    expect(await names('batches')).toContain('2 photos of Shore');
    await putBack('batches', batch).expect(200);
  });

  it('is named by a batch no longer once it is gone for good', async () => {
    const mark = await addMark(test, SVG, 'Gone.svg');
    const preset = await addPreset('Gone for good', mark);
    const batch = await addBatch(test, test.pictures, 'Named');
    await test.api.delete(`/api/presets/${preset.id}`).expect(204);
    await test.api.delete('/api/bin').expect(200);
    // A window that has not heard of it still sends it.
    const answer = await test.api.patch(`/api/batches/${batch}`).send({ presetId: preset.id });
    expect([answer.status, answer.body.presetId]).toEqual([200, null]);
  });

  it('goes by itself when its time is over, with its files, and not before', async () => {
    const mark = await addMark(test, SVG, 'Old.svg');
    const preset = await addPreset('Old one', mark);
    const file = join(test.folder, 'marks', `${mark}-1.svg`);
    await test.api.delete(`/api/presets/${preset.id}`).expect(204);
    await test.api.delete(`/api/marks/${mark}`).expect(204);
    const day = 24 * 60 * 60 * 1_000;
    await test.house.bin.empty(Date.now() + (BIN_DAYS - 1) * day);
    expect(existsSync(file)).toBe(true);
    await test.house.bin.empty(Date.now() + (BIN_DAYS + 1) * day);
    expect(existsSync(file)).toBe(false);
    expect(await bin()).toEqual([]);
    await putBack('presets', preset.id).expect(422);
  });
});

describe('earlier versions', () => {
  const versionsOf = async (
    path: string,
  ): Promise<EarlierVersion<{ rule: { opacity: number } }>[]> =>
    (await test.api.get(`/api/${path}/versions`).expect(200)).body;

  it('of a preset are taken back at one click, and so is that', async () => {
    const mark = await addMark(test, SVG, 'Versions.svg');
    const preset = await addPreset('Versioned', mark);
    const path = `presets/${preset.id}`;
    const body = { name: 'Versioned', markId: mark, rule: ruleOf({ opacity: 0.3 }) };
    await test.api.put(`/api/${path}`).send(body).expect(200);
    const [first] = await versionsOf(path);
    expect([first.version, first.value.rule.opacity]).toEqual([1, 0.85]);
    const back = await test.api.post(`/api/${path}/versions/1`).expect(200);
    expect(back.body).toMatchObject({ version: 3, rule: { opacity: 0.85 } });
    await test.api.post(`/api/${path}/versions/7`).expect(422);
  });

  it('of a delivery are those that stood for a while, twenty at most', async () => {
    const id = await addDelivery(test, { file: { quality: 60 } }, null);
    const put = (quality: number) =>
      test.api.put(`/api/deliveries/${id}`).send({ name: 'D', rule: { file: { quality } } });
    for (const quality of [61, 62, 63]) await put(quality).expect(200);
    expect((await versionsOf(`deliveries/${id}`)).map(({ version }) => version)).toEqual([1]);
    const { earlier } = test.house.tables;
    const madeAt = new Date(Date.now() - 60_000).toISOString();
    for (let version = 5; version < 40; version++)
      earlier.keep('delivery', id, { version, madeAt, value: JSON.stringify({ rule: {} }) });
    expect(await versionsOf(`deliveries/${id}`)).toHaveLength(20);
  });

  it('of a mark are pictures still, and taking one back makes a new one', async () => {
    const mark = await addMark(test, SVG, 'Again.svg');
    await test.api
      .post(`/api/marks/${mark}/artwork`)
      .query({ name: 'second.svg' })
      .type('application/octet-stream')
      .send(Buffer.from(MARK_SVG.replace('<svg', '<svg data-second="1"')))
      .expect(200);
    const versions = await versionsOf(`marks/${mark}`);
    expect(versions.map(({ version }) => version)).toEqual([1]);
    const picture = { version: 1, tone: 'original', width: 96 };
    await test.api.get(`/api/marks/${mark}/raster`).query(picture).expect(200);
    const back = await test.api.post(`/api/marks/${mark}/versions/1`).expect(200);
    expect(back.body.version).toBe(3);
    expect((await versionsOf(`marks/${mark}`)).map(({ version }) => version)).toEqual([2, 1]);
  });
});
