import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import {
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { basename, join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RunDetailView, RunItemView } from '#core/contract/http';
import { openHouse, temporaryFolder, until, type TestHouse } from '../helpers/house.ts';
import {
  cutShort,
  MARK_SVG,
  pixelsOf,
  scene,
  writeCameraJpeg,
  writeJpeg,
  writePaddedMark,
} from '../helpers/makePhoto.ts';
import {
  addBatch,
  addDelivery,
  addMark,
  finished,
  ruleOf,
  runToEnd,
  wishOf,
} from '../helpers/runs.ts';

let test: TestHouse;
let photos: string;
let svgMark: number;
let pngMark: number;

beforeAll(async () => {
  test = await openHouse();
  photos = join(test.pictures, 'photos');
  mkdirSync(photos);
  await writeCameraJpeg(join(photos, 'a side.jpg'), { width: 900, height: 600, orientation: 6 });
  await writeJpeg(join(photos, 'b.jpg'), { width: 800, height: 500, seed: 2 });
  await scene({ width: 400, height: 400, seed: 3 })
    .ensureAlpha(0.5)
    .png()
    .toFile(join(photos, 'c.png'));
  utimesSync(join(photos, 'b.jpg'), new Date(), new Date('2021-03-04T05:06:07Z'));
  const padded = join(test.pictures, 'padded.png');
  await writePaddedMark(padded);
  svgMark = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
  pngMark = await addMark(test, readFileSync(padded), 'padded.png');
});
afterAll(() => test.close());

function outFolder(): string {
  const folder = join(test.pictures, `out-${Math.random().toString(36).slice(2)}`);
  mkdirSync(folder);
  return folder;
}

/** The smallest box that holds all pixels that differ by more than `by`. */
function changedBox(a: Awaited<ReturnType<typeof pixelsOf>>, b: typeof a, by: number) {
  let [left, top, right, bottom] = [a.width, a.height, -1, -1];
  for (let y = 0; y < a.height; y++) {
    for (let x = 0; x < a.width; x++) {
      const at = (y * a.width + x) * 3;
      const off = Math.max(...[0, 1, 2].map((c) => Math.abs(a.data[at + c] - b.data[at + c])));
      if (off <= by) continue;
      [left, right] = [Math.min(left, x), Math.max(right, x)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
    }
  }
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

async function exported(rule: object, part: object, markId = svgMark, batchFolder = photos) {
  const folder = outFolder();
  const batchId = await addBatch(test, batchFolder);
  const deliveryId = await addDelivery(test, rule, folder);
  const detail = await runToEnd(
    test,
    wishOf({ batchId, deliveryIds: [deliveryId], markId, rule: ruleOf(part) }),
  );
  const file = (source: string): string => {
    const item = detail.items.find(({ sourceName }) => sourceName === source);
    return join(folder, item?.outputName ?? 'none');
  };
  return { ...detail, folder, file };
}

describe('pixels', () => {
  it.each([
    [{ opacity: 1, tone: { tone: 'original' } }],
    [{ opacity: 1, tone: { tone: 'dark' }, rotation: 33, anchor: 'left' }],
    [
      {
        opacity: 1,
        tone: { tone: 'light' },
        size: { basis: 'pixels', value: 61.3 },
        anchor: 'top-right',
      },
    ],
  ])('changes just the box of the placement, within a pixel: %j', async (part) => {
    for (const markId of [svgMark, pngMark]) {
      const { items, file } = await exported({ resize: null, file: { type: 'png' } }, part, markId);
      const item = items.find(({ sourceName }) => sourceName === 'b.jpg') as RunItemView;
      const before = await pixelsOf(join(photos, 'b.jpg'));
      const after = await pixelsOf(file('b.jpg'));
      const found = changedBox(before, after, 0);
      const box = item.placement?.copies[0].box;
      if (!box) throw new Error('no box');
      expect(Math.abs(found.x - box.x)).toBeLessThanOrEqual(1.01);
      expect(Math.abs(found.y - box.y)).toBeLessThanOrEqual(1.01);
      expect(Math.abs(found.x + found.width - box.x - box.width)).toBeLessThanOrEqual(1.01);
      expect(Math.abs(found.y + found.height - box.y - box.height)).toBeLessThanOrEqual(1.01);
    }
  });

  it('draws the mark in its tone, with its opacity, upright on a photo that lies on its side', async () => {
    const part = {
      opacity: 0.5,
      tone: { tone: '#204060' },
      anchor: 'centre',
      size: { basis: 'width', value: 50 },
    };
    const { file } = await exported({ resize: null, file: { type: 'png' } }, part);
    const upright = await sharp(join(photos, 'a side.jpg')).autoOrient().raw().toBuffer();
    const after = await pixelsOf(file('a side.jpg'));
    expect([after.width, after.height]).toEqual([600, 900]);
    const at = (450 * 600 + 300) * 3;
    [0x20, 0x40, 0x60].forEach((colour, c) => {
      expect(Math.abs(after.data[at + c] - (upright[at + c] + colour) / 2)).toBeLessThanOrEqual(1);
    });
  });

  it('keeps the transparency of a photo where the type can, and lays it on white where not', async () => {
    const part = { opacity: 1, tone: { tone: 'dark' } };
    const png = await exported({ resize: null, file: { type: 'png' } }, part);
    expect((await sharp(png.file('c.png')).stats()).channels[3].min).toBe(127);
    const jpeg = await exported({ resize: null }, part);
    const { data } = await pixelsOf(jpeg.file('c.png'));
    const source = await sharp(join(photos, 'c.png'))
      .flatten({ background: '#fff' })
      .raw()
      .toBuffer();
    expect(Math.abs(data[0] - source[0])).toBeLessThan(6);
  });
});

describe('files', () => {
  it.each([
    [{ type: 'jpeg', quality: 80, chroma: '4:2:0' }, 'jpg', 'jpeg'],
    [{ type: 'png' }, 'png', 'png'],
    [{ type: 'webp' }, 'webp', 'webp'],
    [{ type: 'avif', quality: 50 }, 'avif', 'heif'],
    [{ type: 'tiff' }, 'tif', 'tiff'],
  ])('%j opens, is sRGB, upright, and keeps the camera’s notes', async (file, ending, format) => {
    const metadata = { location: 'keep' };
    const done = await exported({ file, metadata, resize: { px: 300 } }, {});
    expect(done.run).toMatchObject({ state: 'done', written: 3, failed: 0 });
    const path = done.file('a side.jpg');
    expect(path.endsWith(`a side-web.${ending}`)).toBe(true);
    const found = await sharp(path).metadata();
    expect(found).toMatchObject({ format, width: 200, height: 300 });
    expect(found.icc?.toString('latin1').replaceAll('\0', '')).toContain('sRGB');
    // Where the reader of notes does not know the container, it is given the block itself.
    const block = found.exif?.subarray(
      found.exif.indexOf(/II|MM/.exec(found.exif.toString('latin1'))?.[0] ?? ''),
    );
    const notes = await exifr.parse(block ?? readFileSync(path), {
      tiff: true,
      exif: true,
      gps: true,
    });
    expect(notes).toMatchObject({ Make: 'Halden Optics', Artist: 'Ines Marlow' });
    expect(notes.LensModel).toBe('HX 24-70mm F2.8');
    expect(notes.GPSLatitude).toEqual([61, 12, 0]);
    expect([undefined, 1, 'Horizontal (normal)']).toContain(notes.Orientation);
  });

  it.each(['jpeg', 'png', 'webp', 'avif', 'tiff'])(
    'of type %s say nothing of where the photo was taken, unless it is asked for',
    async (type) => {
      const done = await exported({ file: { type }, resize: { px: 300 } }, {});
      const path = done.file('a side.jpg');
      const { exif } = await sharp(path).metadata();
      const from = exif?.indexOf(/II|MM/.exec(exif.toString('latin1'))?.[0] ?? '');
      const notes = await exifr.parse(exif?.subarray(from) ?? readFileSync(path), {
        ...{ tiff: true, exif: true, gps: true },
      });
      expect(notes).toMatchObject({ Make: 'Halden Optics', Artist: 'Ines Marlow' });
      expect(Object.keys(notes).filter((key) => /gps|latitude|longitude/i.test(key))).toEqual([]);
    },
  );

  it('never holds a thumbnail of the unmarked photo', async () => {
    const source = readFileSync(join(photos, 'a side.jpg'));
    expect(await exifr.thumbnail(source)).toBeDefined();
    for (const type of ['jpeg', 'png', 'webp', 'tiff']) {
      const { file } = await exported({ file: { type }, resize: { px: 300 } }, {});
      const bytes = readFileSync(file('a side.jpg'));
      const exif = (await sharp(bytes).metadata()).exif ?? Buffer.alloc(0);
      expect(exif.includes(Buffer.from([0xff, 0xd8, 0xff]))).toBe(false);
      expect(await exifr.thumbnail(bytes).catch(() => undefined)).toBeUndefined();
    }
  });

  it('leaves all notes out where the delivery says none', async () => {
    const { file } = await exported({ metadata: { keep: 'none' }, resize: { px: 300 } }, {});
    const metadata = await sharp(file('a side.jpg')).metadata();
    expect([metadata.exif, metadata.xmp, metadata.iptc]).toEqual([undefined, undefined, undefined]);
  });

  it('is dated like the photo, or now', async () => {
    const like = await exported({ dates: 'photo' }, {});
    expect(statSync(like.file('b.jpg')).mtime.toISOString()).toBe('2021-03-04T05:06:07.000Z');
    const now = await exported({ dates: 'now' }, {});
    expect(Date.now() - statSync(now.file('b.jpg')).mtimeMs).toBeLessThan(60_000);
  });

  it('leaves nothing but the outputs in the folder, and the sources untouched', async () => {
    const sum = (path: string) => createHash('sha1').update(readFileSync(path)).digest('hex');
    const before = readdirSync(photos).map((name) => sum(join(photos, name)));
    const { folder } = await exported({}, {});
    expect(readdirSync(folder).sort()).toEqual(['a side-web.jpg', 'b-web.jpg', 'c-web.jpg']);
    expect(readdirSync(photos).map((name) => sum(join(photos, name)))).toEqual(before);
  });
});

describe('names that are taken', () => {
  async function twice(existing: string) {
    const folder = outFolder();
    const batchId = await addBatch(test, photos);
    const deliveryId = await addDelivery(test, { existing, name_pattern: '{batch}' }, folder);
    const wish = wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark });
    writeFileSync(join(folder, 'Batch.jpg'), 'mine');
    return { detail: await runToEnd(test, wish), folder };
  }

  it('keeps both', async () => {
    const { folder } = await twice('number');
    expect(readdirSync(folder).sort()).toEqual([
      'Batch-2.jpg',
      'Batch-3.jpg',
      'Batch-4.jpg',
      'Batch.jpg',
    ]);
    expect(readFileSync(join(folder, 'Batch.jpg'), 'utf8')).toBe('mine');
  });

  it('replaces only what was there before, never an output of the same run', async () => {
    const { folder } = await twice('replace');
    expect(readdirSync(folder).sort()).toEqual(['Batch-2.jpg', 'Batch-3.jpg', 'Batch.jpg']);
    expect(readFileSync(join(folder, 'Batch.jpg')).length).toBeGreaterThan(1000);
  });

  it('skips, and counts it', async () => {
    const { detail, folder } = await twice('skip');
    expect(detail.run).toMatchObject({ state: 'done', skipped: 3, written: 0 });
    expect(readFileSync(join(folder, 'Batch.jpg'), 'utf8')).toBe('mine');
  });

  it.each(['replace', 'skip'])(
    'refuses to touch a photo, under its name or through a link (%s)',
    async (existing) => {
      const folder = join(test.pictures, `originals-${existing}`);
      mkdirSync(folder);
      await writeJpeg(join(folder, 'one.jpg'), { width: 200, height: 100 });
      const out = outFolder();
      linkSync(join(folder, 'one.jpg'), join(out, 'hard.jpg'));
      symlinkSync(join(folder, 'one.jpg'), join(out, 'soft.jpg'));
      const batchId = await addBatch(test, folder);
      const before = readFileSync(join(folder, 'one.jpg'));
      for (const [pattern, place] of [
        ['{name}', folder],
        ['hard', out],
        ['soft', out],
      ]) {
        const deliveryId = await addDelivery(test, { existing, name_pattern: pattern }, place);
        const detail = await runToEnd(
          test,
          wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark }),
        );
        expect(detail.items[0].status).toBe('failed');
        expect(detail.items[0].error).toContain('originals are never replaced');
        expect(readFileSync(join(folder, 'one.jpg')).equals(before)).toBe(true);
      }
      const deliveryId = await addDelivery(
        test,
        { existing: 'number', name_pattern: '{name}' },
        folder,
      );
      await runToEnd(test, wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark }));
      expect(readdirSync(folder).sort()).toEqual(['one-2.jpg', 'one.jpg']);
    },
  );
});

describe('when something goes wrong', () => {
  it('lists the photo that failed with its reason, does the others, and can retry', async () => {
    const folder = join(test.pictures, 'some-bad');
    mkdirSync(folder);
    for (const name of ['1.jpg', '2.jpg', '3.jpg']) {
      await writeJpeg(join(folder, name), { width: 500, height: 300, seed: Number(name[0]) });
    }
    const whole = readFileSync(join(folder, '2.jpg'));
    const batchId = await addBatch(test, folder);
    cutShort(join(folder, '2.jpg'), join(folder, '2.jpg'), 0.5);
    rmSync(join(folder, '3.jpg'));
    const deliveryId = await addDelivery(test, {}, outFolder());
    const detail = await runToEnd(
      test,
      wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark }),
    );
    expect(detail.run).toMatchObject({ state: 'done', written: 1, failed: 2 });
    expect(detail.items[1].error).toBe('2.jpg is damaged or cut short and cannot be read whole.');
    expect(detail.items[2].error).toBe('3.jpg is not there: it was moved, renamed or deleted.');
    writeFileSync(join(folder, '2.jpg'), whole);
    await test.api.post(`/api/runs/${detail.run.id}/retry`).expect(200);
    const again = await finished(test, detail.run.id);
    expect(again.run).toMatchObject({ state: 'done', written: 2, failed: 1 });
  });

  it('says that a chosen folder is gone, before and during a run', async () => {
    const folder = outFolder();
    const batchId = await addBatch(test, photos);
    const deliveryId = await addDelivery(test, {}, folder);
    rmSync(folder, { recursive: true });
    const wish = wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark });
    const plan = await test.api.post('/api/runs/plan').send(wish);
    expect(plan.body.problem).toContain('is not there');
    const refused = await test.api.post('/api/runs').send(wish);
    expect(refused.status).toBe(422);
    expect(existsSync(folder)).toBe(false);
  });

  it('says that the disk is full, and leaves nothing half-written', async () => {
    const disk = join(test.pictures, 'small-disk');
    mkdirSync(disk);
    try {
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', disk]);
    } catch {
      // Only root may mount; elsewhere the sentence is covered by the unit test of storage errors.
      return;
    }
    try {
      const batchId = await addBatch(test, photos);
      const deliveryId = await addDelivery(test, { resize: null, file: { type: 'tiff' } }, disk);
      const detail = await runToEnd(
        test,
        wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark }),
      );
      expect(detail.run.failed).toBe(3);
      expect(detail.items[0].error).toContain('is full');
      expect(readdirSync(disk)).toEqual([]);
    } finally {
      execFileSync('umount', [disk]);
    }
  });

  it('can be paused, resumed and cancelled', async () => {
    const folder = join(test.pictures, 'many');
    mkdirSync(folder);
    for (let number = 0; number < 24; number++) {
      await writeJpeg(join(folder, `${number}.jpg`), { width: 1600, height: 1000, seed: number });
    }
    const batchId = await addBatch(test, folder);
    const deliveryId = await addDelivery(test, { resize: null }, outFolder());
    const { id } = (
      await test.api
        .post('/api/runs')
        .send(wishOf({ batchId, deliveryIds: [deliveryId], markId: svgMark }))
    ).body;
    await test.api.post(`/api/runs/${id}/pause`).expect(200);
    // What was being worked on is finished first.
    const { run: paused } = await until(
      async () => (await test.api.get(`/api/runs/${id}`)).body as RunDetailView,
      ({ items }) => items.every(({ status }) => status !== 'working' && status !== 'naming'),
    );
    const atPause = paused.written;
    await new Promise((done) => setTimeout(done, 400));
    expect((await test.api.get(`/api/runs/${id}`)).body.run).toMatchObject({
      state: 'paused',
      written: atPause,
    });
    expect(atPause).toBeLessThan(24);
    await test.api.post(`/api/runs/${id}/resume`).expect(200);
    await test.api.post(`/api/runs/${id}/cancel`).expect(200);
    const { run } = await finished(test, id);
    expect(run.state).toBe('cancelled');
    expect(run.cancelled).toBeGreaterThan(0);
  });
});

describe('outputs', () => {
  it('are shown, opened, and downloaded one by one or as ZIP', async () => {
    const { run, items, file } = await exported(
      { file: { type: 'tiff' }, resize: { px: 200 } },
      {},
    );
    const item = items[1];
    const tile = await test.api.get(`/api/outputs/${item.id}/tile`);
    expect(tile.headers['content-type']).toBe('image/jpeg');
    const view = await test.api.get(`/api/outputs/${item.id}/view`);
    expect((await sharp(view.body).metadata()).width).toBe(200);
    const download = await test.api.get(`/api/outputs/${item.id}/file`).buffer().parse(bytes);
    expect((download.body as Buffer).equals(readFileSync(file('b.jpg')))).toBe(true);
    const zip = await test.api.get(`/api/runs/${run.id}/zip`).buffer().parse(bytes);
    const folder = temporaryFolder();
    writeFileSync(join(folder, 'all.zip'), zip.body as Buffer);
    const listed = execFileSync('python3', ['-m', 'zipfile', '-l', join(folder, 'all.zip')], {
      encoding: 'utf8',
    });
    for (const name of ['a side-web.tif', 'b-web.tif', 'c-web.tif']) expect(listed).toContain(name);
    rmSync(folder, { recursive: true });
  });

  it('are not served once their folder is no longer allowed', async () => {
    const { items, folder } = await exported({}, {});
    rmSync(folder, { recursive: true });
    symlinkSync('/etc', folder);
    expect((await test.api.get(`/api/outputs/${items[0].id}/file`)).status).toBe(404);
    expect(basename(folder)).toContain('out-');
  });
});

type Parser = (response: unknown, done: (error: Error | null, body: Buffer) => void) => void;

/** Collects an answer as bytes; the types of the client do not know its parsers take a stream. */
const bytes = ((response: NodeJS.ReadableStream, done) => {
  const parts: Buffer[] = [];
  response.on('data', (part: Buffer) => parts.push(part));
  response.on('end', () => done(null, Buffer.concat(parts)));
}) as Parser as never;

describe('several deliveries', () => {
  it('make of each photo what each alone would, in one run, and one ZIP', async () => {
    const [folder, other] = [outFolder(), outFolder()];
    const batchId = await addBatch(test, photos);
    const png = { resize: { px: 300 }, file: { type: 'png' }, name_pattern: '{name}' };
    const deliveryIds = [
      await addDelivery(test, { resize: null, name_pattern: '{name}' }, folder),
      await addDelivery(test, png, folder),
      await addDelivery(test, png, other),
    ];
    const wish = wishOf({ batchId, deliveryIds, markId: svgMark });
    const plan = (await test.api.post('/api/runs/plan').send(wish).expect(200)).body;
    expect(plan).toMatchObject({ photos: 3, files: 9, problem: null });
    expect(plan.deliveries.map((one: { folder: string }) => one.folder)).toEqual([
      ...[folder, folder, other],
    ]);
    const { run, items } = await runToEnd(test, wish);
    expect(run).toMatchObject({ state: 'done', total: 9, written: 9 });
    expect(items.map(({ number, delivery }) => [number, delivery]).slice(0, 4)).toEqual([
      ...[
        [1, 1],
        [1, 2],
        [1, 3],
        [2, 1],
      ],
    ]);
    expect(readdirSync(folder)).toHaveLength(6);
    for (const name of readdirSync(other)) {
      const same = await pixelsOf(join(folder, name));
      expect((await pixelsOf(join(other, name))).data.equals(same.data)).toBe(true);
    }
    const zip = join(test.pictures, 'several.zip');
    const sent = await test.api
      .get(`/api/runs/${run.id}/zip`)
      .buffer(true)
      .parse((stream, done) => {
        const parts: Buffer[] = [];
        stream.on('data', (part: Buffer) => parts.push(part));
        stream.on('end', () => done(null, Buffer.concat(parts)));
      });
    writeFileSync(zip, sent.body);
    const listed = execFileSync('python3', ['-m', 'zipfile', '-l', zip]).toString();
    expect(listed.match(/\.(png|jpg) /g)).toHaveLength(9);
  });

  it('beside the first go out with their own preset, or without a mark', async () => {
    const batchId = await addBatch(test, photos);
    const preset = {
      name: `All over ${batchId}`,
      markId: pngMark,
      rule: ruleOf({ anchor: 'top' }),
    };
    const presetId = (await test.api.post('/api/presets').send(preset).expect(201)).body.id;
    const folder = outFolder();
    const delivery = (name: string, part: object) =>
      test.api
        .post('/api/deliveries')
        .send({ name, rule: { name_pattern: '{name} {delivery} {preset}' }, folder, ...part });
    const made = await Promise.all([
      delivery('wall', { presetId }),
      delivery('own', { presetId }),
      delivery('any', {}),
      delivery('bare', { rule: { mark: false, name_pattern: '{name} bare' } }),
    ]);
    const deliveryIds = made.map(({ body }) => body.id);
    const { photos: all } = (await test.api.get(`/api/batches/${batchId}`)).body;
    const changes = [{ photoId: all[0].id, adjustment: { anchor: 'left' } }];
    await test.api.put(`/api/batches/${batchId}/adjustments`).send({ changes }).expect(204);
    const wish = wishOf({ batchId, deliveryIds, markId: svgMark, presetName: 'Wall' });
    const plan = (await test.api.post('/api/runs/plan').send(wish).expect(200)).body;
    const presets = plan.deliveries.map((one: { preset: string | null }) => one.preset);
    expect(presets).toEqual(['Wall', preset.name, 'Wall', null]);
    const { items } = await runToEnd(test, wish);
    const anchors = items.map(({ placement }) => placement?.anchor ?? null);
    // What was adjusted by hand was so on the wall, and not for another preset.
    expect(anchors.slice(0, 4)).toEqual(['left', 'top', 'left', null]);
    expect(anchors.slice(4, 8)).toEqual(['bottom-right', 'top', 'bottom-right', null]);
    expect(items[1].outputName).toContain(preset.name);
    await test.api.delete(`/api/presets/${presetId}`);
  });

  it.each([
    ['the second is shown on the wall', 1, ['top', 'bottom-right']],
    ['none is shown there', null, ['top', 'top']],
  ])('lay their own marks, first or not, where %s', async (_, shown, anchors) => {
    const pictures = outFolder();
    await writeJpeg(join(pictures, 'a.jpg'), { width: 600, height: 400 });
    const batchId = await addBatch(test, pictures);
    const rule = ruleOf({ anchor: 'top' });
    const preset = { name: `Own of ${batchId}`, markId: pngMark, rule };
    const presetId = (await test.api.post('/api/presets').send(preset).expect(201)).body.id;
    const body = { rule: { name_pattern: '{name} {delivery}' }, folder: outFolder(), presetId };
    const deliveryIds: number[] = [];
    for (const name of ['One', 'Two']) {
      const made = await test.api
        .post('/api/deliveries')
        .send({ ...body, name })
        .expect(201);
      deliveryIds.push(made.body.id);
    }
    const shownDeliveryId = shown === null ? null : deliveryIds[shown];
    const wish = wishOf({ batchId, deliveryIds, markId: svgMark, shownDeliveryId });
    const { run, items } = await runToEnd(test, wish);
    const laid = (some: typeof items) => some.map(({ placement }) => placement?.anchor);
    expect(laid(items)).toEqual(anchors);
    // With the photos that came since it is the same.
    await writeJpeg(join(pictures, 'b.jpg'), { width: 600, height: 400 });
    await test.api.post(`/api/batches/${batchId}/folders`).send({ path: pictures }).expect(202);
    await until(
      async () => (await test.api.get(`/api/runs/${run.id}`)).body.addedSince,
      (added) => added === 1,
    );
    const again = (await test.api.post(`/api/runs/${run.id}/again`).expect(201)).body;
    expect(laid((await finished(test, again.id)).items)).toEqual(anchors);
  });

  it('are kept by their batch, without those that are gone', async () => {
    const batchId = await addBatch(test, photos);
    const deliveryIds = [await addDelivery(test, {}, null), await addDelivery(test, {}, null)];
    const change = { deliveryIds: deliveryIds.toReversed() };
    const kept = await test.api.patch(`/api/batches/${batchId}`).send(change).expect(200);
    expect(kept.body.deliveryIds).toEqual(deliveryIds.toReversed());
    await test.api.delete(`/api/deliveries/${deliveryIds[1]}`).expect(204);
    const { batch } = (await test.api.get(`/api/batches/${batchId}`)).body;
    expect(batch.deliveryIds).toEqual([deliveryIds[0]]);
  });

  it('are refused where there is none, or one that is not there', async () => {
    const batchId = await addBatch(test, photos);
    const none = wishOf({ batchId, deliveryIds: [], markId: svgMark });
    await test.api.post('/api/runs').send(none).expect(400);
    const gone = wishOf({ batchId, deliveryIds: [9_999], markId: svgMark });
    await test.api.post('/api/runs').send(gone).expect(404);
  });
});
