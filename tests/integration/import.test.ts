import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { crc32 } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportView, PhotoView } from '#core/contract/http';
import { openHouse, until, type TestHouse } from '../helpers/house.ts';
import { cutShort, scene, writeCameraJpeg, writeJpeg } from '../helpers/makePhoto.ts';
import { newBatch } from '../helpers/runs.ts';

const HEIC = fileURLToPath(new URL('../fixtures/wet-sand.heic', import.meta.url));
const SMALL = { width: 300, height: 200 };

let test: TestHouse;
let made: string;
beforeAll(async () => {
  test = await openHouse();
  made = join(test.pictures, 'made');
  mkdirSync(made);
});
afterAll(() => test.close());

function upload(batchId: number, name: string, bytes: Buffer, modified?: number) {
  const query = modified === undefined ? { name } : { name, modified: String(modified) };
  return test.api
    .post(`/api/batches/${batchId}/photos`)
    .query(query)
    .type('application/octet-stream')
    .send(bytes);
}

async function photosOf(batchId: number): Promise<PhotoView[]> {
  return (await test.api.get(`/api/batches/${batchId}`)).body.photos;
}

/** A PNG whose header says it is larger than it is: a bomb costs its maker nothing. */
function claimingSize(png: Buffer, width: number, height: number): Buffer {
  const header = { at: 8 };
  png.writeUInt32BE(width, header.at + 8);
  png.writeUInt32BE(height, header.at + 12);
  png.writeUInt32BE(crc32(png.subarray(header.at + 4, header.at + 21)), header.at + 21);
  return png;
}

async function readFolder(batchId: number, path: string): Promise<ImportView> {
  let last: ImportView | null = null;
  const { house } = test;
  const tell = house.events.send.bind(house.events);
  house.events.send = (name, data) => {
    if (name === 'import') last = data as ImportView;
    tell(name, data);
  };
  await test.api.post(`/api/batches/${batchId}/folders`).send({ path }).expect(202);
  const done = await until(
    () => last as ImportView | null,
    (view) => view !== null && view.state !== 'reading',
  );
  house.events.send = tell;
  return done as ImportView;
}

describe('dropped photos', () => {
  it('takes every kind, turned upright, with what the camera wrote', async () => {
    const batch = await newBatch(test);
    await writeCameraJpeg(join(made, 'side.jpg'), { ...SMALL, orientation: 6 });
    const added = await upload(
      batch,
      'side.jpg',
      readFileSync(join(made, 'side.jpg')),
      1_700_000_000_000,
    );
    expect(added.status).toBe(201);
    expect(added.body).toMatchObject({
      ...{ name: 'side.jpg', width: 200, height: 300, format: 'jpeg', bits: 8 },
      ...{
        capturedAt: '2026-04-11T06:11:02',
        camera: 'Halden Optics HX-2',
        lens: 'HX 24-70mm F2.8',
      },
    });
    const kinds = {
      png: await scene(SMALL).png().toBuffer(),
      webp: await scene(SMALL).webp().toBuffer(),
      tiff: await scene(SMALL).tiff().toBuffer(),
      avif: await scene(SMALL).avif({ effort: 0 }).toBuffer(),
      heic: readFileSync(HEIC),
    };
    for (const [kind, bytes] of Object.entries(kinds)) {
      const answer = await upload(batch, `photo.${kind}`, bytes);
      expect([kind, answer.status, answer.body.format]).toEqual([kind, 201, kind]);
      const proxy = await test.api.get(`/api/photos/${answer.body.id}/proxy`);
      const { width, height } = await sharp(proxy.body).metadata();
      expect(width / height).toBeCloseTo(answer.body.width / answer.body.height, 1);
    }
  });

  it('shows what the photo shows: colours of proxies, HEIC and CMYK too', async () => {
    const batch = await newBatch(test);
    const heic = (await upload(batch, 'a.heic', readFileSync(HEIC))).body;
    const original = fileURLToPath(
      new URL('../../demo/photos/NC26_0276_wet-sand.jpg', import.meta.url),
    );
    const expected = await sharp(original).autoOrient().resize(60).removeAlpha().raw().toBuffer();
    const proxy = (await test.api.get(`/api/photos/${heic.id}/proxy`)).body;
    const found = await sharp(proxy).resize(60).removeAlpha().raw().toBuffer();
    const off =
      expected.reduce((sum, value, at) => sum + Math.abs(value - found[at]), 0) / expected.length;
    expect(off).toBeLessThan(4);
    const cmyk = await scene(SMALL).toColourspace('cmyk').jpeg().toBuffer();
    expect((await upload(batch, 'cmyk.jpg', cmyk)).status).toBe(201);
  });

  it('keeps names with spaces, umlauts and emoji, and two of one name', async () => {
    const batch = await newBatch(test);
    const names = [
      'Möwe über dem Meer 🌊.jpg',
      'same.jpg',
      'same.jpg',
      '../../up.jpg',
      'no ending',
    ];
    for (const [seed, name] of names.entries()) {
      const bytes = await scene({ ...SMALL, seed })
        .jpeg()
        .toBuffer();
      expect((await upload(batch, name, bytes)).status).toBe(201);
    }
    expect((await photosOf(batch)).map((photo) => photo.name).sort()).toEqual([...names].sort());
    expect(existsSync(join(test.folder, '..', 'up.jpg'))).toBe(false);
  });

  it('knows a photo that comes twice by its content, also at the same moment', async () => {
    const batch = await newBatch(test);
    const bytes = await scene({ ...SMALL, seed: 9 })
      .jpeg()
      .toBuffer();
    const both = await Promise.all([upload(batch, 'a.jpg', bytes), upload(batch, 'a.jpg', bytes)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 201]);
    expect(both[0].body.id).toBe(both[1].body.id);
    expect((await upload(batch, 'a copy.jpg', bytes)).body.id).toBe(both[0].body.id);
    expect(await photosOf(batch)).toHaveLength(1);
    expect(readdirSync(join(test.folder, 'incoming'))).toEqual([]);
    expect(readdirSync(join(test.folder, 'photos')).length).toBeGreaterThan(0);
    // In another batch it is another photo.
    expect((await upload(await newBatch(test), 'a.jpg', bytes)).status).toBe(201);
  });

  it('leaves out what is no photo, with a sentence that names it, and goes on', async () => {
    const batch = await newBatch(test);
    await writeJpeg(join(made, 'whole.jpg'), { width: 900, height: 600 });
    cutShort(join(made, 'whole.jpg'), join(made, 'cut.jpg'), 0.6);
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
    const giant = claimingSize(await scene(SMALL).png().toBuffer(), 20_000, 16_000);
    const bad: [string, Buffer, string][] = [
      ['empty.jpg', Buffer.alloc(0), 'empty.jpg is empty'],
      ['camera.nef', readFileSync(join(made, 'cut.jpg')), 'camera.nef is a raw file of a camera'],
      ['cut.jpg', readFileSync(join(made, 'cut.jpg')), 'damaged or cut short'],
      ['letter.jpg', Buffer.from('Dear Ines,\n'), 'not a photo that can be read'],
      ['drawing.jpg', Buffer.from(svg), 'not a photo that can be read'],
      ['giant.png', giant, 'larger than 300 megapixels'],
    ];
    for (const [name, bytes, sentence] of bad) {
      const answer = await upload(batch, name, bytes);
      expect(answer.status).toBe(422);
      expect(answer.body.message).toContain(name);
      expect(answer.body.message).toContain(sentence);
    }
    expect((await upload(batch, 'good.jpg', readFileSync(join(made, 'whole.jpg')))).status).toBe(
      201,
    );
    expect(await photosOf(batch)).toHaveLength(1);
    expect(readdirSync(join(test.folder, 'incoming'))).toEqual([]);
  });

  it('takes photos out of the batch, with the copies made of them', async () => {
    const batch = await newBatch(test);
    const { id } = (await upload(batch, 'x.jpg', await scene(SMALL).jpeg().toBuffer())).body;
    expect(existsSync(join(test.folder, 'photos', `${id}.jpg`))).toBe(true);
    await test.api
      .post(`/api/batches/${batch}/photos/remove`)
      .send({ ids: [id] })
      .expect(204);
    expect(await photosOf(batch)).toHaveLength(0);
    // Until the bin is emptied, they can be put back.
    expect(existsSync(join(test.folder, 'photos', `${id}.jpg`))).toBe(true);
    await test.api.delete('/api/bin').expect(200);
    expect(existsSync(join(test.folder, 'photos', `${id}.jpg`))).toBe(false);
  });
});

describe('a folder read in place', () => {
  it('reads it with its subfolders, copies nothing, writes nothing, takes nothing twice', async () => {
    const folder = join(test.pictures, 'Shore');
    mkdirSync(join(folder, 'second day'), { recursive: true });
    await writeJpeg(join(folder, 'a.jpg'), SMALL);
    cpSync(join(folder, 'a.jpg'), join(folder, 'second day', 'a.jpg'));
    writeFileSync(join(folder, 'broken.jpg'), 'x');
    writeFileSync(join(folder, 'notes.txt'), 'x');
    copyFileSync(join(folder, 'a.jpg'), join(folder, '.hidden.jpg'));
    const before = statSync(join(folder, 'a.jpg'));
    const batch = await newBatch(test);
    const first = await readFolder(batch, folder);
    expect(first).toMatchObject({ total: 3, added: 2, already: 0, state: 'done' });
    expect(first.refused.map(({ name }) => name)).toEqual(['broken.jpg']);
    const photos = await photosOf(batch);
    expect(photos.map(({ origin }) => origin)).toEqual(['in-place', 'in-place']);
    expect(existsSync(join(test.folder, 'photos', `${photos[0].id}.jpg`))).toBe(false);
    const again = await readFolder(batch, folder);
    expect(again).toMatchObject({ added: 0, already: 2 });
    const after = statSync(join(folder, 'a.jpg'));
    expect([after.mtimeMs, after.size, after.ino]).toEqual([
      before.mtimeMs,
      before.size,
      before.ino,
    ]);
    await test.api.delete(`/api/batches/${batch}`).expect(204);
    expect(existsSync(join(folder, 'a.jpg'))).toBe(true);
  });

  it('tells of raw files in a folder, unless their developed photo lies beside them', async () => {
    const folder = join(test.pictures, 'raw and not');
    mkdirSync(folder);
    await writeJpeg(join(folder, 'both.jpg'), SMALL);
    writeFileSync(join(folder, 'both.NEF'), 'raw');
    writeFileSync(join(folder, 'alone.CR3'), 'raw');
    const read = await readFolder(await newBatch(test), folder);
    expect(read).toMatchObject({ total: 2, added: 1, refusedCount: 1 });
    expect(read.refused[0]).toMatchObject({
      name: 'alone.CR3',
      reason: expect.stringContaining('is a raw file of a camera'),
    });
  });

  it('refuses folders that are not allowed, gone or empty', async () => {
    const batch = await newBatch(test);
    const send = (path: string) => test.api.post(`/api/batches/${batch}/folders`).send({ path });
    symlinkSync('/usr', join(test.pictures, 'usr'));
    mkdirSync(join(test.pictures, 'nothing'));
    for (const [path, sentence] of [
      ['/usr', 'not in an allowed folder'],
      [join(test.pictures, 'usr'), 'not in an allowed folder'],
      [join(test.pictures, 'gone'), 'is not there'],
      [join(test.pictures, 'nothing'), 'holds no photos'],
    ]) {
      const answer = await send(path);
      expect(answer.status).toBe(422);
      expect(answer.body.message).toContain(sentence);
    }
  });

  it('stores the light map of each photo', async () => {
    const row = test.house.db
      .prepare<[], { w: number; h: number; bytes: number; l: number }>(
        'SELECT light_width AS w, light_height AS h, length(light_cells) AS bytes, lightness AS l FROM photos LIMIT 1',
      )
      .get();
    expect(row?.bytes).toBe((row?.w ?? 0) * (row?.h ?? 0) * 2);
    expect(row?.l).toBeGreaterThan(20);
  });
});

describe('samples', () => {
  it('are of the batch worked on last that has photos, and none without one', async () => {
    const other = await openHouse();
    const none = { batch: null, photos: [] };
    expect((await other.api.get('/api/samples').expect(200)).body).toEqual(none);
    const batchId = await newBatch(other, 'With photos');
    await other.api
      .post(`/api/batches/${batchId}/photos`)
      .query({ name: 'one.jpg' })
      .type('application/octet-stream')
      .send(await scene(SMALL).jpeg().toBuffer())
      .expect(201);
    await newBatch(other, 'Empty and newer');
    const { body } = await other.api.get('/api/samples').expect(200);
    expect(body).toMatchObject({ batch: { id: batchId }, photos: [{ name: 'one.jpg' }] });
    await other.close();
  });
});
