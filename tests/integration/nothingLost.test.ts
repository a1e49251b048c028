import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { BatchView, ImportView, PhotoView } from '#core/contract/http';
import { openHouse, temporaryFolder, until, type TestHouse } from '#tests/helpers/house';
import { MARK_SVG, scene, writeJpeg } from '#tests/helpers/makePhoto';
import {
  addBatch,
  addDelivery,
  addMark,
  finished,
  newBatch,
  ruleOf,
  runToEnd,
  wishOf,
} from '#tests/helpers/runs';
import { smallDisk } from '#tests/helpers/smallDisk';

/** What happens beside the way that is meant: deleted meanwhile, away, full, killed, twice, moved. */

const LARGE = { width: 1_600, height: 1_067 };
const SMALL = { width: 240, height: 160 };

let test: TestHouse;
let photos: string;
beforeEach(async () => {
  test = await openHouse();
  photos = join(test.pictures, 'photos');
  mkdirSync(photos);
});
afterEach(() => test.close());

async function makePhotos(count: number, size = SMALL, folder = photos): Promise<void> {
  for (let seed = 0; seed < count; seed++) {
    await writeJpeg(join(folder, `${String(seed).padStart(3, '0')}.jpg`), { ...size, seed });
  }
}

const readFolder = (batchId: number, path = photos) =>
  test.api.post(`/api/batches/${batchId}/folders`).send({ path });

async function opened(batchId: number) {
  const { body } = await test.api.get(`/api/batches/${batchId}`).expect(200);
  return body as {
    batch: BatchView;
    photos: PhotoView[];
    reading: ImportView | null;
    lastReading: ImportView | null;
  };
}

async function beginRun(existing = 'number', pattern = '{name}-web', folder?: string) {
  const markId = await addMark(test, Buffer.from(MARK_SVG), 'mark.svg');
  const batchId = await addBatch(test, photos);
  const rule = { existing, name_pattern: pattern };
  const deliveryId = await addDelivery(test, rule, folder ?? null);
  const wish = wishOf({ batchId, deliveryIds: [deliveryId], markId });
  return { wish, markId, batchId, deliveryId };
}

/** What must be true of an application at rest, whatever happened to it. */
async function expectTidy(): Promise<void> {
  await test.api.get('/api/settings').expect(200);
  expect(readdirSync(join(test.folder, 'incoming'))).toEqual([]);
}

describe('a folder that is read', () => {
  it('is stopped in order when its batch is deleted', async () => {
    await makePhotos(40, LARGE);
    const batchId = await newBatch(test);
    await readFolder(batchId).expect(202);
    await test.api.delete(`/api/batches/${batchId}`).expect(204);
    await test.api.get(`/api/batches/${batchId}`).expect(404);
    await test.api.delete('/api/bin').expect(200);
    await expectTidy();
    expect(readdirSync(join(test.folder, 'previews'))).toEqual([]);
  });

  it('is read once, however often it is asked for at the same moment', async () => {
    await makePhotos(12);
    const batchId = await newBatch(test);
    const asked = await Promise.all([
      readFolder(batchId),
      readFolder(batchId),
      readFolder(batchId),
    ]);
    expect(asked.map(({ status }) => status)).toEqual([202, 202, 202]);
    await until(
      () => opened(batchId),
      ({ reading }) => reading === null,
    );
    expect((await opened(batchId)).photos).toHaveLength(12);
  });

  it('is gone on with after a restart, with no photo missing or twice', async () => {
    await makePhotos(40, LARGE);
    const batchId = await newBatch(test);
    await readFolder(batchId).expect(202);
    await until(
      () => opened(batchId),
      ({ photos: all }) => all.length > 2,
    );
    await test.end();
    test = await openHouse(test);
    const done = await until(
      () => opened(batchId),
      ({ reading }) => reading === null,
    );
    expect(done.photos.map(({ name }) => name)).toEqual(readdirSync(photos).sort());
    await expectTidy();
  });

  it('is paused where it is away after a restart, and goes on when it is back', async () => {
    await makePhotos(30, LARGE);
    const batchId = await newBatch(test);
    await readFolder(batchId).expect(202);
    await test.end();
    renameSync(photos, `${photos}-away`);
    test = await openHouse(test);
    const paused = await until(
      () => opened(batchId),
      ({ reading }) => reading?.state === 'paused',
    );
    expect(paused.reading?.problem).toContain('is not there');
    renameSync(`${photos}-away`, photos);
    await test.api.post(`/api/batches/${batchId}/folders/resume`).expect(200);
    const done = await until(
      () => opened(batchId),
      ({ reading }) => reading === null,
    );
    expect(done.photos).toHaveLength(30);
  });

  it('lists what failed, and reads it once more when asked', async () => {
    await makePhotos(3);
    const whole = readFileSync(join(photos, '001.jpg'));
    writeFileSync(join(photos, '001.jpg'), whole.subarray(0, whole.length / 2));
    const batchId = await newBatch(test);
    await readFolder(batchId).expect(202);
    const first = await until(
      () => opened(batchId),
      ({ reading }) => reading === null,
    );
    expect(first.lastReading?.refused[0].name).toBe('001.jpg');
    writeFileSync(join(photos, '001.jpg'), whole);
    await test.api.post(`/api/batches/${batchId}/folders/resume`).expect(200);
    const again = await until(
      () => opened(batchId),
      ({ photos: all }) => all.length === 3,
    );
    expect(again.photos).toHaveLength(3);
  });

  it('waits with a sentence while the data disk is full, and the server goes on', async () => {
    const data = temporaryFolder();
    const disk = smallDisk(data, '4m');
    if (!disk) return;
    await makePhotos(40, LARGE);
    const full = await openHouse({ folder: data, pictures: test.pictures });
    try {
      const { id } = (await full.api.post('/api/batches').send({ name: 'Full' })).body;
      await full.api.post(`/api/batches/${id}/folders`).send({ path: photos }).expect(202);
      const paused = await until(
        async () => (await full.api.get(`/api/batches/${id}`)).body,
        ({ reading }) => reading?.state === 'paused',
      );
      expect(paused.reading.problem).toMatch(/full/);
      expect(paused.photos.length).toBeGreaterThan(0);
      await full.api.get('/api/settings').expect(200);
      disk.grow('200m');
      await full.api.post(`/api/batches/${id}/folders/resume`).expect(200);
      const done = await until(
        async () => (await full.api.get(`/api/batches/${id}`)).body,
        ({ reading }) => reading === null,
      );
      expect(done.photos).toHaveLength(40);
    } finally {
      await full.end();
      disk.remove();
      rmSync(data, { recursive: true, force: true });
    }
  });
});

describe('an original', () => {
  it('is not replaced after another program saved it under a new inode', async () => {
    await makePhotos(2);
    const { wish } = await beginRun('replace', '{name}', photos);
    // Beside and renamed, as many programs save; the note made at import is then of another file.
    const path = join(photos, '000.jpg');
    writeFileSync(
      `${path}.new`,
      await scene({ ...SMALL, seed: 99 })
        .jpeg()
        .toBuffer(),
    );
    renameSync(`${path}.new`, path);
    const before = readdirSync(photos).map((name) => readFileSync(join(photos, name)));
    const { items } = await runToEnd(test, wish);
    expect(items.map(({ status }) => status)).toEqual(['failed', 'failed']);
    expect(items[0].error).toContain('originals are never replaced');
    const after = readdirSync(photos).map((name) => readFileSync(join(photos, name)));
    expect(after.map((bytes, index) => bytes.equals(before[index]))).toEqual([true, true]);
  });

  it('of another batch is not replaced either, nor is its name taken while it is away', async () => {
    await makePhotos(1);
    const other = join(test.pictures, 'other');
    mkdirSync(other);
    await makePhotos(1, SMALL, other);
    await addBatch(test, other, 'Other');
    const { wish } = await beginRun('replace', '{name}', other);
    const kept = readFileSync(join(other, '000.jpg'));
    expect((await runToEnd(test, wish)).items[0].status).toBe('failed');
    expect(readFileSync(join(other, '000.jpg')).equals(kept)).toBe(true);
    // Some programs save by deleting first: the name is not free meanwhile.
    rmSync(join(other, '000.jpg'));
    expect((await runToEnd(test, wish)).items[0].status).toBe('failed');
    expect(existsSync(join(other, '000.jpg'))).toBe(false);
  });

  it('that was changed since is noticed, read again, and said', async () => {
    await makePhotos(2);
    const batchId = await addBatch(test, photos);
    const [before] = (await opened(batchId)).photos;
    writeFileSync(
      join(photos, '000.jpg'),
      await scene({ ...LARGE, seed: 5 })
        .jpeg()
        .toBuffer(),
    );
    rmSync(join(photos, '001.jpg'));
    test.house.freshness.lookThrough(-1);
    const after = await until(
      async () => {
        lookAgainAtOnce();
        return (await opened(batchId)).photos;
      },
      ([first, second]) => first.version > before.version && second.note !== null,
    );
    expect(after[0]).toMatchObject({ id: before.id, width: LARGE.width });
    expect(after[0].note).toContain('changed on disk');
    expect(after[1].note).toContain('not where it was');
  });

  it('that was changed since is exported as it is, by a proxy of the same', async () => {
    await makePhotos(1);
    const { wish } = await beginRun();
    writeFileSync(
      join(photos, '000.jpg'),
      await scene({ ...LARGE, seed: 5 })
        .jpeg()
        .toBuffer(),
    );
    const { items } = await runToEnd(test, { ...wish, rule: ruleOf({ fallbacks: ['top'] }) });
    expect(items[0]).toMatchObject({ status: 'written', frame: LARGE });
    expect(items[0].note).toContain('read again');
  });
});

describe('a run', () => {
  it('loses no photo when its imaging processes are killed, over and over', async () => {
    await makePhotos(40, LARGE);
    const { wish } = await beginRun();
    const { id } = (await test.api.post('/api/runs').send(wish).expect(201)).body;
    let kills = 0;
    const detail = await until(
      async () => {
        if (kills < 5) {
          for (const pid of test.house.imaging.pids().slice(0, 1)) {
            process.kill(pid, 'SIGKILL');
            kills++;
          }
        }
        return (await test.api.get(`/api/runs/${id}`)).body;
      },
      ({ run }) => run.state === 'done',
    );
    expect(kills).toBe(5);
    expect(detail.run).toMatchObject({ written: 40, failed: 0 });
    const names = readdirSync(detail.run.deliveries[0].folder);
    expect(names).toHaveLength(40);
    expect(names.some((name) => name.startsWith('.'))).toBe(false);
  });

  it('and what it uses cannot be deleted under it', async () => {
    await makePhotos(30, LARGE);
    const { wish, batchId, deliveryId, markId } = await beginRun();
    const preset = { name: 'P', markId, rule: ruleOf({}) };
    const { id: presetId } = (await test.api.post('/api/presets').send(preset).expect(201)).body;
    const run = (await test.api.post('/api/runs').send({ ...wish, presetId })).body;
    const last = (await opened(batchId)).photos.at(-1)?.id;
    const refused = await Promise.all([
      test.api.delete(`/api/batches/${batchId}`),
      test.api.delete(`/api/deliveries/${deliveryId}`),
      test.api.delete(`/api/presets/${presetId}`),
      test.api.delete(`/api/marks/${markId}`),
      test.api.post(`/api/batches/${batchId}/photos/remove`).send({ ids: [last] }),
    ]);
    expect(refused.map(({ status }) => status)).toEqual([409, 409, 409, 409, 409]);
    const detail = await finished(test, run.id);
    expect(detail.run).toMatchObject({ written: 30, failed: 0 });
    await test.api.delete(`/api/batches/${batchId}`).expect(204);
    await test.api.delete(`/api/deliveries/${deliveryId}`).expect(204);
  });

  it('that is cancelled leaves no temporary file, also over a restart, and retry finishes it', async () => {
    await makePhotos(24, LARGE);
    const { wish } = await beginRun();
    const { id, deliveries } = (await test.api.post('/api/runs').send(wish)).body;
    const [{ folder }] = deliveries;
    await until(
      async () => (await test.api.get(`/api/runs/${id}`)).body.run,
      ({ written }) => written > 1,
    );
    await test.api.post(`/api/runs/${id}/cancel`).expect(200);
    await test.end();
    test = await openHouse(test);
    const settled = await until(
      async () => (await test.api.get(`/api/runs/${id}`)).body,
      ({ items }) =>
        items.every(({ status }: { status: string }) => /written|cancelled/.test(status)),
    );
    expect(settled.run.state).toBe('cancelled');
    expect(readdirSync(folder).filter((name) => name.startsWith('.'))).toEqual([]);
    await test.api.post(`/api/runs/${id}/retry`).expect(200);
    expect((await finished(test, id)).run).toMatchObject({ state: 'done', written: 24 });
    expect(readdirSync(folder)).toHaveLength(24);
  });

  it('replaces the same two files each time where two photos have one name', async () => {
    for (const day of ['one', 'two']) {
      mkdirSync(join(photos, day));
      await writeJpeg(join(photos, day, 'a.jpg'), { ...SMALL, seed: day.length * 7 });
    }
    const out = join(test.pictures, 'out');
    mkdirSync(out);
    const { wish } = await beginRun('replace', '{name}', out);
    const sizes = async () => {
      const { items } = await runToEnd(test, wish);
      return items.map(({ outputName, bytesAfter }) => [outputName, bytesAfter]);
    };
    const first = await sizes();
    expect([await sizes(), await sizes()]).toEqual([first, first]);
    expect(readdirSync(out).sort()).toEqual(['a-2.jpg', 'a.jpg']);
  });

  it('is begun once, though its answer was lost and it was asked for again', async () => {
    await makePhotos(2);
    const { wish } = await beginRun();
    const ask = () =>
      test.api.post('/api/runs').set('Idempotency-Key', 'the-same-click').send(wish);
    const [first, second] = await Promise.all([ask(), ask()]);
    const third = await ask();
    expect([first.body.id, second.body.id, third.body.id]).toEqual(Array(3).fill(first.body.id));
    expect((await test.api.get('/api/runs')).body).toHaveLength(1);
    const other = await test.api
      .post('/api/runs')
      .set('Idempotency-Key', 'the-same-click')
      .send({ ...wish, presetName: 'Another' });
    expect(other.status).toBe(422);
    // Also after a restart.
    await finished(test, first.body.id);
    await test.end();
    test = await openHouse(test);
    expect((await ask()).body.id).toBe(first.body.id);
  });
});

describe('a folder of the settings that is away', () => {
  it('stays allowed, and other settings can be saved', async () => {
    const settings = (await test.api.get('/api/settings')).body;
    delete settings.configured;
    const send = (next: object) => test.api.put('/api/settings').send(next);
    const once = (await send({ ...settings, folders: [photos] }).expect(200)).body;
    rmSync(photos, { recursive: true });
    delete once.configured;
    const kept = (await send({ ...once, surround: 'black' }).expect(200)).body;
    expect(kept).toMatchObject({ folders: [photos], surround: 'black' });
    expect((await send({ ...once, surround: 'paper' })).status).toBe(409);
  });
});

describe('two windows', () => {
  it('do not write over each other’s presets, deliveries and designs', async () => {
    const markId = await addMark(test, Buffer.from(MARK_SVG), 'mark.svg');
    const body = { name: 'P', markId, rule: ruleOf({}) };
    const preset = (await test.api.post('/api/presets').send(body)).body;
    const put = (change: object) =>
      test.api.put(`/api/presets/${preset.id}`).send({ ...body, ...change });
    await put({ name: 'Q', baseVersion: preset.version }).expect(200);
    const late = await put({ name: 'R', baseVersion: preset.version });
    expect([late.status, late.body.code]).toEqual([409, 'changed']);
    await put({ name: 'R', baseVersion: preset.version + 1 }).expect(200);
    // An answer was lost: the window that made the version does not stand in its own way.
    const from = (tab: string, name: string) =>
      put({ name, baseVersion: preset.version + 2 }).set('Light-Crest-Tab', tab);
    await from('one', 'S').expect(200);
    await from('one', 'S').expect(200);
    await from('two', 'T').expect(409);
    const elsewhere = put({ name: 'U', baseVersion: preset.version + 4 });
    await elsewhere.set('Light-Crest-Tab', 'two').expect(200);
    await from('one', 'V').expect(409);
    await put({ name: 'W', baseVersion: preset.version + 9 }).expect(409);

    const opening = (await test.api.get(`/api/marks/${markId}/design`)).body;
    const save = (baseVersion: number) =>
      test.api.put(`/api/marks/${markId}/design`).send({ design: opening.design, baseVersion });
    const both = await Promise.all([save(1), save(1)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});

describe('the data folder', () => {
  it('can be copied to another place and opened there', async () => {
    const batchId = await newBatch(test);
    for (const seed of [1, 2]) {
      await test.api
        .post(`/api/batches/${batchId}/photos?name=${seed}.jpg`)
        .type('application/octet-stream')
        .send(
          await scene({ ...SMALL, seed })
            .jpeg()
            .toBuffer(),
        )
        .expect(201);
    }
    const markId = await addMark(test, Buffer.from(MARK_SVG), 'mark.svg');
    const deliveryId = await addDelivery(test, {}, null);
    const { run } = await runToEnd(test, wishOf({ batchId, deliveryIds: [deliveryId], markId }));
    await test.end();
    const elsewhere = temporaryFolder();
    cpSync(test.folder, elsewhere, { recursive: true });
    rmSync(test.folder, { recursive: true });
    const moved = await openHouse({ folder: elsewhere, pictures: test.pictures });
    try {
      const detail = (await moved.api.get(`/api/runs/${run.id}`)).body;
      expect(detail.run.deliveries[0].folder).toBe(join(elsewhere, 'exports', 'Batch'));
      await moved.api.get(`/api/outputs/${detail.items[0].id}/file`).expect(200);
      const again = await runToEnd(moved, wishOf({ batchId, deliveryIds: [deliveryId], markId }));
      expect(again.run).toMatchObject({ written: 2, failed: 0 });
      const stored = JSON.stringify(moved.house.db.prepare('SELECT * FROM photos').all());
      expect(stored).not.toContain(elsewhere);
    } finally {
      await moved.close();
      test = await openHouse();
    }
  });
});

it('photos that keep their date and length are still the same', async () => {
  await makePhotos(1);
  const batchId = await addBatch(test, photos);
  const [before] = (await opened(batchId)).photos;
  const path = join(photos, '000.jpg');
  const { atime, mtime } = statSync(path);
  copyFileSync(path, `${path}.copy`);
  renameSync(`${path}.copy`, path);
  utimesSync(path, atime, mtime);
  lookAgainAtOnce();
  expect((await opened(batchId)).photos[0].version).toBe(before.version);
});

/** Without the rest after the last look. */
function lookAgainAtOnce(): void {
  const freshness = test.house.freshness as unknown as { restUntilMs: Map<number, number> };
  freshness.restUntilMs.clear();
}
