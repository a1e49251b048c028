import {
  appendFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { InboxView, RunDetailView, RunView, UnreadView } from '#core/contract/http';
import { openHouse, temporaryFolder, until, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { addDelivery, addMark } from '../helpers/runs.ts';
import { startServer } from '../helpers/serverProcess.ts';

/** Folders that are watched by the application: what appears in them is exported by itself. */

let test: TestHouse;
let folder: string;
let out: string;
let photo: Buffer;
let presetId: number;
let deliveryId: number;
beforeEach(async () => {
  test = await openHouse();
  folder = join(test.pictures, 'in');
  out = join(test.pictures, 'out');
  mkdirSync(folder);
  mkdirSync(out);
  await writeJpeg(join(test.pictures, 'photo.jpg'), { width: 300, height: 200 });
  photo = readFileSync(join(test.pictures, 'photo.jpg'));
  const markId = await addMark(test, Buffer.from(MARK_SVG), 'Crest.svg');
  const preset = { name: 'Low right', markId, rule: {} };
  presetId = (await test.api.post('/api/presets').send(preset).expect(201)).body.id;
  deliveryId = await addDelivery(test, { name_pattern: '{name}-web' }, out);
});
afterEach(() => test.close());

const put = (name: string, bytes = photo): void => writeFileSync(join(folder, name), bytes);
const wish = (part: object = {}) => ({
  ...{ name: 'From the raw converter', folder, presetIds: [presetId], deliveryIds: [deliveryId] },
  ...part,
});
async function watched(part: object = {}): Promise<number> {
  return (await test.api.post('/api/inboxes').send(wish(part)).expect(201)).body.id;
}
const inboxOf = async (id: number): Promise<InboxView> =>
  ((await test.api.get('/api/inboxes')).body as InboxView[]).find((one) => one.id === id)!;
const shows = (id: number, part: Partial<InboxView>) =>
  until(
    () => inboxOf(id),
    (view) => Object.entries(part).every(([key, value]) => view[key as keyof InboxView] === value),
  );
const outputs = (below = ''): string[] =>
  readdirSync(join(out, below), { withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map(({ name }) => name)
    .sort();
const runs = async (): Promise<RunView[]> => (await test.api.get('/api/runs')).body;
const later = (ms: number) => new Promise((done) => setTimeout(done, ms));

describe('a watched folder', () => {
  it('is exported as it fills, in runs of its own, and mirrors folders', async () => {
    put('there.jpg');
    const id = await watched();
    await shows(id, { taken: 1, written: 1 });
    mkdirSync(join(folder, 'day 2', 'morning'), { recursive: true });
    put('second.jpg');
    put('day 2/morning/below.jpg');
    await shows(id, { taken: 3, written: 3, waiting: 0 });
    expect(outputs()).toEqual(['second-web.jpg', 'there-web.jpg']);
    expect(outputs('day 2/morning')).toEqual(['below-web.jpg']);
    // Photos that come one by one become one run a folder, not one a photo.
    await until(runs, (all) => all.every(({ state }) => state === 'done'));
    const all = await runs();
    const written = all.map(({ batchName, written: count }) => [batchName, count]);
    expect(Object.fromEntries(written)).toEqual({
      'From the raw converter': 2,
      'From the raw converter, day 2/morning': 1,
    });
    expect(all).toHaveLength(2);
    const last = all.find((run) => run.written === 2)!;
    const { items } = (await test.api.get(`/api/runs/${last.id}`)).body as RunDetailView;
    expect(items.every(({ readBack }) => readBack?.problem === null)).toBe(true);
  });

  it('takes each photo once for its content, also after a restart', async () => {
    const id = await watched();
    put('a.jpg');
    await shows(id, { written: 1 });
    utimesSync(join(folder, 'a.jpg'), 1, 1);
    await later(700);
    expect(await inboxOf(id)).toMatchObject({ taken: 1, written: 1 });
    const { folder: data, pictures } = test;
    await test.end();
    test = await openHouse({ folder: data, pictures });
    put('b.jpg');
    await shows(id, { taken: 2, written: 2 });
    // Other content under the same name goes out once more; what is there stays.
    const other = await sharp(photo).negate().toBuffer();
    put('a.jpg', other);
    await shows(id, { taken: 2, written: 3 });
    expect(outputs()).toEqual(['a-web-2.jpg', 'a-web.jpg', 'b-web.jpg']);
  });

  it('waits for what is being written, and lists what cannot be read', async () => {
    const id = await watched();
    put('slow.jpg', photo.subarray(0, photo.length / 2));
    put('broken.jpg', Buffer.from('no photo at all, however long it is waited for'));
    await later(500);
    expect(await inboxOf(id)).toMatchObject({ taken: 0, waiting: 2 });
    appendFileSync(join(folder, 'slow.jpg'), photo.subarray(photo.length / 2));
    await shows(id, { taken: 2, written: 1, unread: 1, waiting: 0 });
    const unread = (await test.api.get(`/api/inboxes/${id}/unread`)).body as UnreadView[];
    expect(unread).toEqual([{ name: 'broken.jpg', reason: expect.stringMatching(/\w/) }]);
    // Mended, it is taken like any other.
    put('broken.jpg');
    await shows(id, { taken: 2, written: 2, unread: 0 });
  });

  it('moves what cannot be read aside where that is asked for, also when its server ended before', async () => {
    const aside = join(test.pictures, 'aside');
    const id = await watched();
    put('broken.jpg', Buffer.from('no photo at all'));
    mkdirSync(join(folder, 'day 2'));
    put('day 2/broken.jpg', Buffer.from('no photo either'));
    await shows(id, { taken: 2, unread: 2 });
    expect(readdirSync(folder).sort()).toEqual(['broken.jpg', 'day 2']);
    // Asked for later, as it would be found by the next server.
    const { body } = await test.api.put(`/api/inboxes/${id}`).send(wish({ aside })).expect(200);
    expect(body.aside).toBe(aside);
    const gone = () => readdirSync(folder, { recursive: true });
    await until(gone, (names) => names.length === 1);
    expect(readFileSync(join(aside, 'day 2/broken.jpg'), 'utf8')).toBe('no photo either');
    put('broken.jpg', Buffer.from('another of that name'));
    put('whole.jpg');
    await shows(id, { taken: 3, written: 1, waiting: 0 });
    await until(gone, (names) => names.length === 2);
    expect(readdirSync(aside).sort()).toEqual(['broken-2.jpg', 'broken.jpg', 'day 2']);
    expect(readFileSync(join(aside, 'broken-2.jpg'), 'utf8')).toBe('another of that name');
    const unread = (await test.api.get(`/api/inboxes/${id}/unread`)).body as UnreadView[];
    expect(unread.map(({ reason }) => reason).join()).toContain(
      `It was moved to ${join(aside, 'broken-2.jpg')}.`,
    );
    const within = await test.api
      .put(`/api/inboxes/${id}`)
      .send(wish({ aside: join(folder, 'aside') }));
    expect([within.status, within.body.message]).toEqual([422, expect.stringContaining('again')]);
  });

  it('says what is in its way, and goes on when it is not any more', async () => {
    const id = await watched();
    renameSync(folder, `${folder}-away`);
    await until(
      () => inboxOf(id),
      ({ problem }) => problem !== null,
    );
    renameSync(`${folder}-away`, folder);
    await shows(id, { problem: null });
    renameSync(out, `${out}-away`);
    put('a.jpg');
    await until(
      () => inboxOf(id),
      ({ problem }) => problem?.includes('where Delivery writes') ?? false,
    );
    expect(await runs()).toEqual([]);
    renameSync(`${out}-away`, out);
    await shows(id, { problem: null, written: 1 });
  });

  it('takes nothing while it is off, and all of it when it is on again', async () => {
    const id = await watched();
    const { body } = await test.api
      .put(`/api/inboxes/${id}`)
      .send(wish({ isOn: false }))
      .expect(200);
    expect(body.isOn).toBe(false);
    put('a.jpg');
    await later(500);
    expect(await inboxOf(id)).toMatchObject({ taken: 0 });
    await test.api.put(`/api/inboxes/${id}`).send(wish()).expect(200);
    await shows(id, { written: 1 });
    await test.api.delete(`/api/inboxes/${id}`).expect(204);
    put('b.jpg');
    await later(500);
    expect([outputs(), (await test.api.get('/api/inboxes')).body]).toEqual([['a-web.jpg'], []]);
    expect(existsSync(join(folder, 'b.jpg'))).toBe(true);
  });

  it('takes hundreds at once', async () => {
    const id = await watched();
    // Different content each, as photos have; a comment at the end of the file is none of its pixels.
    for (let index = 0; index < 150; index++) {
      put(
        `${index}.jpg`,
        await sharp(photo)
          .resize(20 + index, 20)
          .jpeg()
          .toBuffer(),
      );
    }
    await until(
      () => inboxOf(id),
      ({ written }) => written === 150,
      120_000,
    );
    expect(outputs()).toHaveLength(150);
    expect(new Set((await runs()).map(({ batchName }) => batchName)).size).toBe(1);
  });

  it('goes by its presets and deliveries as they are when a photo comes', async () => {
    const id = await watched();
    put('a.jpg');
    await shows(id, { written: 1 });
    const delivery = (await test.api.get('/api/deliveries')).body[0];
    const { name, version } = delivery;
    const rule = { ...delivery.rule, name_pattern: '{name}-new' };
    await test.api
      .put(`/api/deliveries/${deliveryId}`)
      .send({ name, rule, folder: out, baseVersion: version })
      .expect(200);
    put('b.jpg');
    await shows(id, { written: 2 });
    expect(outputs()).toEqual(['a-web.jpg', 'b-new.jpg']);
    // Neither can be deleted under it.
    const refused = await test.api.delete(`/api/deliveries/${deliveryId}`);
    expect([refused.status, refused.body.message]).toEqual([
      ...[409, expect.stringContaining('From the raw converter')],
    ]);
    expect((await test.api.delete(`/api/presets/${presetId}`)).status).toBe(409);
  });

  it('is refused where it would feed itself, or another watches already', async () => {
    const refused = async (part: object): Promise<string> =>
      (await test.api.post('/api/inboxes').send(wish(part)).expect(422)).body.message;
    const inside = join(folder, 'marked');
    mkdirSync(inside);
    const looping = await addDelivery(test, {}, inside);
    expect(await refused({ deliveryIds: [looping] })).toContain('would be taken in again');
    expect(await refused({ folder: out })).toContain('would be taken in again');
    expect(await refused({ folder: test.folder })).toMatch(/not in an allowed folder|own data/);
    expect(await refused({ folder: join(test.pictures, 'none') })).toContain('is not there');
    expect(await refused({ presetIds: [999] })).toContain('presets is not there');
    await watched();
    expect(await refused({ name: 'Twice' })).toContain('From the raw converter watches');
    expect(await refused({ folder: inside })).toContain('watches');
    // Nor may two feed each other by what they move aside.
    const other = join(test.pictures, 'other');
    mkdirSync(other);
    expect(await refused({ name: 'Other', folder: other, aside: join(folder, 'aside') })).toContain(
      'would be taken in again',
    );
    // A delivery that is sent into it afterwards stops it, and nothing is written.
    const delivery = (await test.api.get('/api/deliveries')).body.find(
      (one: { id: number }) => one.id === deliveryId,
    );
    const { name, rule, version } = delivery;
    await test.api
      .put(`/api/deliveries/${deliveryId}`)
      .send({ name, rule, folder: inside, baseVersion: version })
      .expect(200);
    put('a.jpg');
    const [{ id }] = (await test.api.get('/api/inboxes')).body as InboxView[];
    await until(
      () => inboxOf(id),
      ({ problem }) => problem?.includes('would be taken in again') ?? false,
    );
    expect(readdirSync(inside)).toEqual([]);
  });
});

it('loses and doubles nothing where the server is killed', async () => {
  const names = Array.from({ length: 30 }, (_, index) => `${index}.jpg`);
  const id = await watched({ isOn: false });
  await test.api.put(`/api/inboxes/${id}`).send(wish()).expect(200);
  const { folder: data, pictures } = test;
  await test.end();
  for (const [index, name] of names.entries()) {
    put(
      name,
      await sharp(photo)
        .resize(400 + index, 300)
        .jpeg()
        .toBuffer(),
    );
  }
  for (const afterMs of [2_300, 2_700, 3_200]) {
    const server = await startServer(data, pictures);
    await later(afterMs);
    await server.kill();
  }
  const last = await startServer(data, pictures);
  const views = async (): Promise<InboxView[]> =>
    (await (await fetch(`${last.address}/api/inboxes`)).json()) as InboxView[];
  await until(views, ([{ written }]) => written >= names.length, 120_000);
  await later(1_500);
  expect((await views())[0]).toMatchObject({ taken: 30, written: 30, failed: 0, unread: 0 });
  await last.stop();
  expect(readdirSync(out).sort()).toEqual(names.map((name) => name.replace('.', '-web.')).sort());
  rmSync(out, { recursive: true });
  test = await openHouse({ folder: temporaryFolder(), pictures });
  rmSync(data, { recursive: true });
});
