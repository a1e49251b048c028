import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';
import { PDFDocument, rgb } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MarkView, ScanView } from '#core/contract/http';
import { DEFAULT_LIFT } from '#core/contract/lift';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase } from '#server/db/open';
import { openTables } from '#server/db/tables';
import { openHouse, temporaryFolder, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writePaddedMark } from '../helpers/makePhoto.ts';
import { boxedLogo, phonePhoto } from '../helpers/phonePhoto.ts';

const fixture = (name: string): Buffer =>
  readFileSync(fileURLToPath(new URL(`../fixtures/${name}`, import.meta.url)));
const DEMO_MARKS = fileURLToPath(new URL('../../demo/marks', import.meta.url));

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.close());

async function send(path: string, bytes: Buffer, name: string) {
  return test.api.post(path).query({ name }).type('application/octet-stream').send(bytes);
}

async function addMark(bytes: Buffer | string, name: string): Promise<MarkView> {
  const answer = await send('/api/marks', Buffer.from(bytes), name);
  expect(answer.status, answer.body.message).toBe(201);
  return answer.body;
}

async function addScan(bytes: Buffer, name: string): Promise<ScanView> {
  const answer = await send('/api/scans', bytes, name);
  expect(answer.status, answer.body.message).toBe(201);
  return answer.body;
}

/** Once it is lifted. */
async function finished(mark: MarkView): Promise<MarkView> {
  expect(await test.house.lifts.settled(mark.id)).toEqual({ ok: true });
  const marks = (await test.api.get('/api/marks')).body as MarkView[];
  return marks.find(({ id }) => id === mark.id) ?? mark;
}

async function pixels(mark: MarkView, tone: string, width: number) {
  const picture = await test.api
    .get(`/api/marks/${mark.id}/raster`)
    .query({ version: mark.version, tone, width })
    .buffer()
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done(null, Buffer.concat(parts)));
    });
  return sharp(picture.body as Buffer)
    .raw()
    .toBuffer({ resolveWithObject: true });
}

describe('from paper', () => {
  it('lifts a phone photo into outlines, keeps pixels beside them, and can be opened again', async () => {
    const { jpeg, inkAspect } = await phonePhoto();
    const scan = await addScan(jpeg, 'paper.jpg');
    expect(scan).toMatchObject({ format: 'jpeg', pages: 1, name: 'paper.jpg' });
    const settings = { ...DEFAULT_LIFT, turn: 90 as const, smoothing: 0.2 };
    const kept = await test.api
      .post(`/api/scans/${scan.id}/lift`)
      .send({ settings, name: 'From a phone' });
    expect(kept.status, kept.body.message).toBe(201);
    const mark = await finished(kept.body as MarkView);
    expect(mark).toMatchObject({ kind: 'svg', origin: 'paper', scanId: scan.id, version: 1 });
    expect(mark.ink.width / mark.ink.height).toBeCloseTo(inkAspect, 1);
    expect(existsSync(test.house.paths.artwork(mark.id, 1, 'png'))).toBe(true);
    const origin = (await test.api.get(`/api/marks/${mark.id}/origin`)).body;
    expect(origin).toEqual({ kind: 'paper', scanId: scan.id, page: 1, settings });

    const heavier = await test.api.post(`/api/scans/${scan.id}/lift`).send({
      settings: { ...settings, weight: 1, form: 'pixels' },
      name: 'ignored',
      markId: mark.id,
    });
    const changed = await finished(heavier.body as MarkView);
    expect(changed).toMatchObject({ id: mark.id, version: 2, kind: 'png', name: 'From a phone' });
  });

  it('is a mark at once; pictures, a preset, readings and a run that come sooner wait for it', async () => {
    const scan = await addScan(readFileSync(join(DEMO_MARKS, 'signature-phone.jpg')), 'large.jpg');
    const photo = join(test.pictures, 'beach.png');
    await sharp({ create: { width: 600, height: 400, channels: 3, background: '#888' } })
      .png()
      .toFile(photo);
    const batch = (await test.api.post('/api/batches').send({ name: 'Early' })).body;
    await test.house.intake.addInPlace(batch.id, photo);
    const delivery = (
      await test.api.post('/api/deliveries').send({ name: 'Early', rule: {}, folder: null })
    ).body;
    const kept = await test.api
      .post(`/api/scans/${scan.id}/lift`)
      .send({ settings: {}, name: 'E' });
    const mark = kept.body as MarkView;
    expect(mark.isPending).toBe(true);
    const preset = { name: 'Early', markId: mark.id, rule: DEFAULT_RULE };
    expect((await test.api.post('/api/presets').send(preset)).status).toBe(201);
    const wish = {
      ...{ batchId: batch.id, deliveryIds: [delivery.id], markId: mark.id },
      ...{ presetName: 'Early', rule: DEFAULT_RULE },
    };
    const [picture, run] = await Promise.all([
      pixels(mark, 'dark', 300),
      test.api.post('/api/runs').send(wish),
    ]);
    expect(run.status, run.body.message).toBe(201);
    const { ink, isPending } = await finished(mark);
    expect(isPending).toBe(false);
    expect(picture.info.width / picture.info.height).toBeCloseTo(ink.width / ink.height, 1);
    await expect
      .poll(async () => (await test.api.get(`/api/runs/${run.body.id}`)).body.items[0], {
        timeout: 20_000,
      })
      .toMatchObject({ status: 'written' });
  });

  it('shows scans that browsers cannot, upright', async () => {
    const scan = await addScan(fixture('wet-sand.heic'), 'sheet.heic');
    const picture = await test.api.get(`/api/scans/${scan.id}/picture`);
    expect(picture.headers['content-type']).toBe('image/png');
    const small = await test.api.get(`/api/scans/${scan.id}/picture`).query({ small: 64 });
    const { width, height } = await sharp(small.body as Buffer).metadata();
    expect(Math.max(width, height)).toBe(64);
  });

  it('says what it cannot do, and leaves nothing behind', async () => {
    const bad = await send('/api/scans', Buffer.from('no scan'), 'bad.jpg');
    expect(bad.status).toBe(422);
    expect(bad.body.message).toContain('bad.jpg is not a scan that can be read');
    expect(readdirSync(test.house.paths.incoming)).toEqual([]);

    const white = await sharp({
      create: { width: 300, height: 200, channels: 3, background: '#eee' },
    })
      .png()
      .toBuffer();
    const blank = await addScan(white, 'blank.png');
    const answer = await test.api
      .post(`/api/scans/${blank.id}/lift`)
      .send({ settings: {}, name: 'Nothing' });
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain('No ink');
    const wrong = await test.api
      .post(`/api/scans/${blank.id}/lift`)
      .send({ settings: { egde: 1 }, name: 'x' });
    expect(wrong.status).toBe(400);
    expect(Object.values(wrong.body.details).join()).toContain('Did you mean "edge"?');
  });

  it('lets go of scans that no mark came from, after a month', async () => {
    const white = await sharp(await boxedLogo())
      .png()
      .toBuffer();
    const scan = await addScan(white, 'unused.png');
    const file = test.house.paths.scan(scan.id, '.png');
    await test.house.scans.tidy();
    expect(existsSync(file)).toBe(true);
    await test.house.scans.tidy(new Date(Date.now() + 40 * 86_400_000));
    expect(existsSync(file)).toBe(false);
    const used = test.house.tables.marks.all().find(({ origin }) => origin.kind === 'paper');
    expect(used && test.house.marks.view(used).scanId).not.toBeNull();
  });
});

describe('PDF', () => {
  async function twoPages(): Promise<Buffer> {
    const pdf = await PDFDocument.create();
    pdf.addPage([300, 200]);
    const page = pdf.addPage([300, 200]);
    page.drawCircle({ x: 150, y: 100, size: 40, color: rgb(0, 0.2, 0.6) });
    return Buffer.from(await pdf.save());
  }

  it('has its pages counted, shown and chosen; vector parts come large, on nothing', async () => {
    const scan = await addScan(await twoPages(), 'logo.pdf');
    expect(scan).toMatchObject({ format: 'pdf', pages: 2 });
    const empty = await test.api.post('/api/marks/from-page').send({ scanId: scan.id, page: 1 });
    expect(empty.status).toBe(422);
    expect(empty.body.message).toContain('something visible');
    const added = await test.api.post('/api/marks/from-page').send({ scanId: scan.id, page: 2 });
    const mark = added.body as MarkView;
    expect(mark.ink.width).toBeGreaterThan(900);
    expect(mark.ink.width / mark.ink.height).toBeCloseTo(1, 2);
    expect(mark.notes.join()).toContain('padding');
    const beyond = await test.api.post('/api/marks/from-page').send({ scanId: scan.id, page: 3 });
    expect(beyond.body.message).toContain('a page up to 2, found 3');
  });

  it('of an office copier is lifted at the size it was scanned', async () => {
    const scan = await addScan(readFileSync(join(DEMO_MARKS, 'signature-scan.pdf')), 'copier.pdf');
    const kept = await test.api
      .post(`/api/scans/${scan.id}/lift`)
      .send({ settings: {}, name: 'Copier' });
    expect(kept.status, kept.body.message).toBe(201);
    const { ink } = await finished(kept.body as MarkView);
    expect(ink.width).toBeGreaterThan(1_840);
    expect(ink.width).toBeLessThan(1_900);
  });

  it('that is damaged says so', async () => {
    const answer = await send('/api/scans', Buffer.from('%PDF-1.7\nrubbish'), 'bad.pdf');
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain('The PDF could not be read');
  });
});

describe('a box round a logo', () => {
  it('is noticed, taken away without a fringe, and can be put back', async () => {
    const mark = await addMark(await boxedLogo(), 'logo.jpg');
    expect(mark.box).toMatchObject({ colour: '#ffffff', version: 1, taken: null });
    const decide = async (take: string): Promise<MarkView> =>
      (await test.api.post(`/api/marks/${mark.id}/box`).send({ take })).body;

    const outside = await decide('outside');
    expect(outside).toMatchObject({ version: 2, box: { taken: 'outside' } });
    expect(outside.ink.width).toBeCloseTo(218, -1);
    const ring = await pixels(outside, 'original', 218);
    const middle = (ring.info.height / 2) * 218 * 4 + 109 * 4;
    expect([...ring.data.subarray(middle, middle + 4)]).toEqual([255, 255, 255, 255]);

    const everywhere = await decide('everywhere');
    const open = await pixels(everywhere, 'original', 218);
    expect(open.data[middle + 3]).toBe(0);
    for (let at = 0; at < open.data.length; at += 4) {
      const alpha = open.data[at + 3] / 255;
      // On black nothing may be brighter than the ring itself, whatever its edge was mixed with.
      if (alpha > 0.1) expect(open.data[at] * alpha).toBeLessThan(60);
    }

    const kept = await decide('keep');
    expect(kept).toMatchObject({ box: { taken: 'keep' }, ink: { width: 480, height: 320 } });
  });

  it('is not asked about where there is none, and one colour all over is refused', async () => {
    expect((await addMark(MARK_SVG, 'mark.svg')).box).toBeNull();
    const grey = await sharp({
      create: { width: 40, height: 40, channels: 3, background: '#808080' },
    })
      .png()
      .toBuffer();
    const answer = await send('/api/marks', grey, 'grey.png');
    expect(answer.body.message).toContain('found #808080 all over');
  });
});

describe('the library', () => {
  it('takes HEIC as artwork', async () => {
    const mark = await addMark(fixture('wet-sand.heic'), 'photo.heic');
    expect(mark.kind).toBe('png');
  });

  it('keeps presets when artwork is replaced, and what a run began with', async () => {
    const mark = await addMark(MARK_SVG, 'first.svg');
    await test.api
      .post('/api/presets')
      .send({ name: 'Stays', markId: mark.id, rule: DEFAULT_RULE });
    const path = join(test.pictures, 'padded.png');
    await writePaddedMark(path);
    const replaced = await send(`/api/marks/${mark.id}/artwork`, readFileSync(path), 'second.png');
    expect(replaced.body).toMatchObject({
      ...{ id: mark.id, name: mark.name, version: 2, kind: 'png', usedBy: ['Stays'] },
    });
    const row = test.house.tables.marks.get(mark.id);
    expect(row && test.house.marks.artworkFile(row, 1)).toMatchObject({
      kind: 'svg',
      ink: mark.ink,
    });

    const bad = await send(`/api/marks/${mark.id}/artwork`, Buffer.from('x'), 'bad.png');
    expect(bad.status).toBe(422);
    expect(test.house.tables.marks.get(mark.id)?.version).toBe(2);
  });

  it('duplicates under a name of its own, and removes every version of a mark', async () => {
    const mark = await addMark(await boxedLogo(), 'twice.jpg');
    await test.api.post(`/api/marks/${mark.id}/box`).send({ take: 'everywhere' });
    const copy = (await test.api.post(`/api/marks/${mark.id}/duplicate`)).body as MarkView;
    expect(copy.name).not.toBe('Twice');
    expect(copy.ink.width).toBeLessThan(260);
    expect((await test.api.delete(`/api/marks/${mark.id}`)).status).toBe(204);
    await test.api.delete('/api/bin').expect(200);
    const files = readdirSync(test.house.paths.marks);
    expect(files.filter((name) => name.startsWith(`${mark.id}-`))).toEqual([]);
    expect((await pixels(copy, 'light', 96)).info.width).toBe(96);
  });

  it('signs by pen, and the SVG comes back as it went', async () => {
    const points = Array.from({ length: 30 }, (_, step) => [step * 8, 40 + (step % 7) * 5, 0.5]);
    const drawing = {
      strokes: [{ points: points.flat(), pressure: false }],
      pen: { weight: 8, contrast: 0.3, smoothing: 0.2 },
    };
    const signed = await test.api.post('/api/marks/pen').send({ drawing, name: 'Signed' });
    expect(signed.status, signed.body.message).toBe(201);
    expect(signed.body).toMatchObject({ origin: 'pen', kind: 'svg', name: 'Signed' });
    const download = await test.api
      .get(`/api/marks/${signed.body.id}/download`)
      .query({ type: 'svg' })
      .buffer();
    expect(download.headers['content-disposition']).toContain('Signed.svg');
    const text = (download.body as Buffer).toString();
    const again = await addMark(text, 'some-file.svg');
    expect(again.name).toBe('Signed');
    expect(again.ink).toEqual(signed.body.ink);
    const origin = (await test.api.get(`/api/marks/${again.id}/origin`)).body;
    expect(origin).toEqual({ kind: 'pen', drawing });

    const damaged = await addMark(text.replace('"weight":8', '"weight":"8"'), 'hurt.svg');
    expect(damaged.origin).toBe('file');
    expect(damaged.notes.join()).toContain('editable part is damaged');
  });

  it('downloads a PNG of the width and tone that are asked', async () => {
    const mark = await addMark(MARK_SVG, 'to-go.svg');
    const answer = await test.api
      .get(`/api/marks/${mark.id}/download`)
      .query({ type: 'png', tone: 'c9a25b', width: 333 });
    const { data, info } = await sharp(answer.body as Buffer)
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.channels]).toEqual([333, 4]);
    const solid = data.findIndex((value, at) => at % 4 === 3 && value === 255) - 3;
    expect([...data.subarray(solid, solid + 3)]).toEqual([0xc9, 0xa2, 0x5b]);
  });

  it('draws a whole frame by a preset, to look at and to keep', async () => {
    const mark = await addMark(MARK_SVG, 'over-video.svg');
    const rule = { tone: { tone: '#102030' }, opacity: 1, anchor: 'top-left' };
    const preset = await test.api
      .post('/api/presets')
      .send({ name: 'Over video', markId: mark.id, rule })
      .expect(201);
    const frame = (query: object) => test.api.get(`/api/marks/${mark.id}/frame`).query(query);
    const size = { width: 640, height: 360 };
    const answer = await frame({ ...size, preset: preset.body.id, download: 1 }).expect(200);
    expect(answer.headers['content-disposition']).toContain('Over video, 640');
    const { data, info } = await sharp(answer.body as Buffer)
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([640, 360, 4]);
    const first = data.findIndex((value, at) => at % 4 === 3 && value === 255) - 3;
    expect([...data.subarray(first, first + 3)]).toEqual([0x10, 0x20, 0x30]);
    expect(first / 4 / 640).toBeLessThan(60);
    const looked = await frame(size).expect(200);
    expect(looked.headers['content-disposition']).toBeUndefined();
    await frame({ ...size, preset: 9_999 }).expect(404);
    await frame({ ...size, width: 0 }).expect(400);
  });
});

it('brings marks of an earlier version along', () => {
  const folder = temporaryFolder();
  const path = join(folder, 'old.sqlite');
  const migrations = fileURLToPath(new URL('../../server/db/migrations', import.meta.url));
  const old = new Database(path);
  old.exec(readFileSync(join(migrations, '001_first_light.sql'), 'utf8'));
  old.pragma('user_version = 1');
  const box = JSON.stringify({ x: 1, y: 2, width: 3, height: 4 });
  old
    .prepare(
      `INSERT INTO marks (name, version, kind, natural_box, ink_box, notes, created_at)
       VALUES ('Old', 1, 'svg', ?, ?, '["a note"]', '2026-01-01')`,
    )
    .run(box, box);
  old.close();
  const db = openDatabase(path, folder);
  expect(openTables(db, folder).marks.all()).toEqual([
    {
      ...{ id: 1, name: 'Old', version: 1, kind: 'svg', retired: false, createdAt: '2026-01-01' },
      ...{ natural: JSON.parse(box), ink: JSON.parse(box), notes: ['a note'] },
      ...{ origin: { kind: 'file' }, box: null, hasPixels: false, isPending: false },
    },
  ]);
  db.close();
});
