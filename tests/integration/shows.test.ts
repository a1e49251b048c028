import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, pixelsOf, writeJpeg } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, addMark, finished, runToEnd, wishOf } from '../helpers/runs.ts';

/** Runs that make a show: what is in its folder, and what if something is not. */

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));
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
  for (const [seed, name] of ['a', 'b', 'c'].entries()) {
    await writeJpeg(join(photos, `${name}.jpg`), { width: 600, height: 400, seed });
  }
  batchId = await addBatch(test, photos, 'Shore');
  markId = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
});
afterAll(() => test.close());

const wishBy = (...deliveryIds: number[]) => wishOf({ batchId, deliveryIds, markId });
const SHOW = { kind: 'show', name_pattern: '{batch} show', resize: { px: 300 } };
const emptied = (): void => {
  for (const name of readdirSync(out)) rmSync(join(out, name), { recursive: true });
};
const redPixels = async (path: string): Promise<number> => {
  const { data } = await pixelsOf(path);
  let count = 0;
  for (let at = 0; at < data.length; at += 3) {
    if (data[at] > 180 && data[at + 1] < 70 && data[at + 2] < 90) count++;
  }
  return count;
};

describe('a run to a show', () => {
  it('makes one folder with all that plays it, which can be had as a ZIP and played at once', async () => {
    emptied();
    const rule = { ...SHOW, show: { title: 'Mornings', caption: '{name}', seconds: 3 } };
    const delivery = await addDelivery(test, rule, out);
    const plan = (await test.api.post('/api/runs/plan').send(wishBy(delivery))).body;
    expect(plan).toMatchObject({ files: 1, problem: null });
    expect(plan.deliveries[0]).toMatchObject({ examples: ['Shore show'], paper: null });
    const { run } = await runToEnd(test, wishBy(delivery));
    expect(run).toMatchObject({
      state: 'done',
      written: 3,
      documents: [{ outputName: 'Shore show' }],
    });
    const folder = join(out, 'Shore show');
    expect(readdirSync(out)).toEqual(['Shore show']);
    expect(readdirSync(folder).sort()).toEqual([
      'index.html',
      'mark.png',
      'photos',
      'player.js',
      'show.css',
    ]);
    expect(readdirSync(join(folder, 'photos'))).toEqual(['1.jpg', '2.jpg', '3.jpg']);
    expect((await sharp(join(folder, 'photos', '1.jpg')).metadata()).width).toBe(300);
    const page = readFileSync(join(folder, 'index.html'), 'utf8');
    expect(page).toContain('"title":"Mornings"');
    expect(page).toContain('"caption":"b"');
    expect(existsSync(join(test.folder, 'prepared', String(run.id)))).toBe(false);
    const played = `/api/runs/${run.id}/shows/1`;
    await test.api.get(`${played}/index.html`).expect(200).expect('Content-Type', /html/);
    await test.api.get(`${played}/photos/2.jpg`).expect(200).expect('Content-Type', /jpeg/);
    await test.api.get(`${played}/photos/9.jpg`).expect(404);
    const beyond = await test.api.get(`${played}/..%2f..%2fphotos%2fa.jpg`);
    expect(beyond.status).toBeGreaterThanOrEqual(400);
    const zip = await test.api.get(`/api/runs/${run.id}/zip`).responseType('blob').expect(200);
    expect((zip.body as Buffer).includes('Shore show/photos/3.jpg')).toBe(true);
  });

  it('has the mark on its photos, or still on the screen', async () => {
    emptied();
    const preset = { tone: { rule: 'fixed', tone: 'original' }, opacity: 1 } as const;
    const red = async (mark_on: string): Promise<number> => {
      const rule = { ...SHOW, name_pattern: mark_on, show: { mark_on } };
      const delivery = await addDelivery(test, rule, out);
      const wish = wishOf({ batchId, deliveryIds: [delivery], markId });
      await runToEnd(test, {
        ...wish,
        rule: { ...wish.rule, ...preset, tone: { ...preset.tone } },
      });
      return redPixels(join(out, mark_on, 'photos', '1.jpg'));
    };
    expect(await red('photo')).toBeGreaterThan(await red('screen'));
    expect(readFileSync(join(out, 'screen', 'index.html'), 'utf8')).toContain('id="mark"');
    expect(readFileSync(join(out, 'photo', 'index.html'), 'utf8')).not.toContain('id="mark"');
  });

  it('has no mark on its title where that says words of photos alone, which cannot stand on the screen', async () => {
    const lettering = { text: '{number:3}', font: { family: 'montserrat', weight: 500 } };
    const design = { layers: [{ id: 'w', kind: 'lettering', name: 'Number', lettering }] };
    const mark = (await test.api.post('/api/designs').send({ name: 'Number', design }).expect(201))
      .body;
    const made = async (show: object) => {
      emptied();
      const delivery = await addDelivery(test, { ...SHOW, show }, out);
      return runToEnd(test, { ...wishBy(delivery), markId: mark.id });
    };
    const numbered = await made({});
    expect(numbered.run.documents).toMatchObject([{ outputName: 'Shore show', error: null }]);
    expect(readdirSync(join(out, 'Shore show'))).not.toContain('mark.png');
    const still = await made({ mark_on: 'screen' });
    expect(still.run.documents[0].error).toContain('cannot stand still on the screen');
    expect(readdirSync(out)).toEqual([]);
  });

  it('takes the place of no folder, whatever the rule says', async () => {
    emptied();
    mkdirSync(join(out, 'Shore show'));
    writeFileSync(join(out, 'Shore show', 'mine.txt'), 'mine');
    const delivery = await addDelivery(test, { ...SHOW, existing: 'replace' }, out);
    const { run } = await runToEnd(test, wishBy(delivery));
    expect(run.documents[0].outputName).toBe('Shore show-2');
    expect(readdirSync(join(out, 'Shore show'))).toEqual(['mine.txt']);
  });

  it('leaves a photo out that cannot be opened, and is made anew with it', async () => {
    emptied();
    const broken = join(photos, 'b.jpg');
    const whole = readFileSync(broken);
    writeFileSync(broken, 'no photo');
    const delivery = await addDelivery(test, SHOW, out);
    const { run } = await runToEnd(test, wishBy(delivery));
    expect(run).toMatchObject({ written: 2, failed: 1, documents: [{ written: 1 }] });
    expect(readdirSync(join(out, 'Shore show', 'photos'))).toHaveLength(2);
    writeFileSync(broken, whole);
    await test.api.post(`/api/runs/${run.id}/retry`).expect(200);
    const again = await finished(test, run.id);
    const folder = join(out, again.run.documents[0].outputName ?? '');
    expect(readdirSync(join(folder, 'photos'))).toHaveLength(3);
    expect(readdirSync(out).filter((name) => name.startsWith('.'))).toEqual([]);
  });
});

it('the command line makes a show too', async () => {
  emptied();
  const delivery = { format: 'light-crest/delivery', version: 1, name: 'Show', ...SHOW };
  writeFileSync(join(test.pictures, 'show.json'), JSON.stringify(delivery));
  writeFileSync(join(test.pictures, 'mark.svg'), MARK_SVG);
  const words = [
    'apply',
    '--mark',
    'mark.svg',
    '--delivery',
    'show.json',
    '--out',
    'out',
    'photos',
  ];
  const said = await new Promise<string>((done, fail) => {
    execFile(BIN, words, { cwd: test.pictures }, (error, stdout) =>
      error ? fail(error) : done(stdout),
    );
  });
  expect(said.trim().split('\n')).toEqual(Array(3).fill(join('out', 'photos show')));
  expect(readdirSync(join(out, 'photos show', 'photos'))).toHaveLength(3);
});
