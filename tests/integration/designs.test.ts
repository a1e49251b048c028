import { execFile } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compress } from 'wawoff2';
import type { DesignView, FontView, MarkShapeView, MarkView, PartView } from '#core/contract/http';
import { designSchema, type Design } from '#core/contract/design';
import { defaultFinish } from '#core/contract/finish';
import { DEFAULT_LIFT } from '#core/contract/lift';
import { markModelOf } from '#core/mark/markFile';
import { faceBytes, font } from '../helpers/faces.ts';
import { openHouse, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, writeCameraJpeg, writeJpeg, writePaddedMark } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, addMark, ruleOf, runToEnd, wishOf } from '../helpers/runs.ts';

/** Composed marks on the server: saved, drawn, exported with the year of each photo, taken away. */

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));
const SIGNATURE_SCAN = fileURLToPath(
  new URL('../../demo/marks/signature-scan.png', import.meta.url),
);
const LOGO_SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 60"><style>.a{fill:#c00}</style>' +
  '<rect class="a" id="x" width="40" height="60"/><circle cx="65" cy="30" r="25" fill="#06c"/></svg>';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.close());

const words = (text: string, part: object = {}) => ({
  ...{ kind: 'lettering', id: 'w', name: text },
  lettering: { text, font: font('montserrat', 700) },
  ...part,
});
const design = (layers: object[], part: object = {}): Design =>
  designSchema.parse({ layers, ...part });

async function compose(wish: Design, name = 'Composed'): Promise<MarkView> {
  const answer = await test.api.post('/api/designs').send({ name, design: wish });
  expect(answer.status, answer.body.message).toBe(201);
  return answer.body;
}

async function save(id: number, wish: Design): Promise<MarkView> {
  const answer = await test.api.put(`/api/marks/${id}/design`).send({ design: wish });
  expect(answer.status, answer.body.message).toBe(200);
  return answer.body;
}

async function send(path: string, bytes: Buffer, name: string) {
  return test.api.post(path).query({ name }).type('application/octet-stream').send(bytes);
}

const opened = async (id: number): Promise<DesignView> =>
  (await test.api.get(`/api/marks/${id}/design`)).body;

async function raster(mark: MarkView, tone: string, width: number, year?: number) {
  const answer = await test.api
    .get(`/api/marks/${mark.id}/raster`)
    .query({
      ...{ version: mark.version, tone, width },
      ...(year ? { words: JSON.stringify([String(year)]) } : {}),
    })
    .buffer(true)
    .parse((response, done) => {
      const chunks: Buffer[] = [];
      response.on('data', (chunk: Buffer) => chunks.push(chunk));
      response.on('end', () => done(null, Buffer.concat(chunks)));
    });
  expect(answer.status).toBe(200);
  return sharp(answer.body as Buffer)
    .raw()
    .toBuffer({ resolveWithObject: true });
}

async function rawOf(path: string) {
  const { data, info } = await sharp(path).raw().toBuffer({ resolveWithObject: true });
  return { data, ...info };
}

describe('a design', () => {
  it('is kept with its layers, and comes back as it was', async () => {
    const wish = design([words('Ines', { finishes: [defaultFinish('shadow')] })]);
    const mark = await compose(wish);
    expect(mark.origin).toBe('design');
    expect((await opened(mark.id)).design).toEqual(wish);
  });

  it('shows what is soft beyond its ink box, in every picture', async () => {
    const glow = { ...defaultFinish('glow'), radius: 4, strength: 1, opacity: 1 };
    const mark = await compose(design([words('Ines', { finishes: [glow] })]));
    expect(mark.bleed.x).toBeGreaterThan(0.05);
    const { data, info } = await raster(mark, 'light', 192);
    expect(info.width).toBe(Math.round(192 * (1 + 2 * mark.bleed.x)));
    const middleRow = Math.floor(info.height / 2) * info.width * 4;
    const justOutside = Math.floor(192 * mark.bleed.x) - 3;
    expect(data[middleRow + justOutside * 4 + 3]).toBeGreaterThan(20);
    // The glow contrasts with light ink, so it is dark.
    expect(data[middleRow + justOutside * 4]).toBe(0);
  });

  it('follows tones layer by layer', async () => {
    const layers = [
      words('I', { id: 'a', colour: '#ff0000', toned: false }),
      words('I', { id: 'b', colour: '#00ff00', place: { x: 300 } }),
    ];
    const mark = await compose(design(layers));
    const { data, info } = await raster(mark, 'light', 192);
    const solid = (x: number): number[] => {
      const at = (Math.floor(info.height / 2) * info.width + x) * 4;
      return [...data.subarray(at, at + 4)];
    };
    expect(solid(4)).toEqual([255, 0, 0, 255]);
    expect(solid(info.width - 5)).toEqual([255, 255, 255, 255]);
  });

  it('is refused when nothing of it can be seen, and when its artwork is not there', async () => {
    const hidden = design([words('Ines', { hidden: true })]);
    const nothing = await test.api.post('/api/designs').send({ name: 'Nothing', design: hidden });
    expect(nothing.status).toBe(422);
    expect(nothing.body.message).toContain('only empty layers');
    const layer = { kind: 'artwork', id: 'a', name: 'Crest', part: 'ffffffffffffffff' };
    const gone = await test.api
      .post('/api/designs')
      .send({ name: 'Gone', design: design([layer]) });
    expect(gone.body.message).toContain('"Crest" is not there');
    const wrong = await test.api
      .post('/api/designs')
      .send({ name: 'Wrong', design: { layers: 3 } });
    expect(wrong.status).toBe(400);
  });

  it('keeps no more versions than are needed, however often it is saved', async () => {
    let mark = await compose(design([words('a')]));
    for (const text of ['ab', 'abc', 'abcd']) mark = await save(mark.id, design([words(text)]));
    expect(mark.version).toBe(4);
    const files = readdirSync(join(test.folder, 'marks'));
    // The one it began with can be taken back; what stood for a moment can not.
    const kept = [1, 4].map((version) => `${mark.id}-${version}.svg`);
    expect(files.filter((name) => name.startsWith(`${mark.id}-`)).sort()).toEqual(kept);
  });
});

describe('artwork in layers', () => {
  it('turns a mark from a file into layers when it is first changed', async () => {
    const id = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
    const view = await opened(id);
    expect(view.design.layers).toHaveLength(1);
    const [layer] = view.design.layers;
    const outline = { ...defaultFinish('outline'), width: 2 };
    const mark = await save(id, { ...view.design, layers: [{ ...layer, finishes: [outline] }] });
    expect(mark.origin).toBe('design');
    expect(mark.ink.width).toBeCloseTo(1_000 + 40, 0);
  });

  it('takes new artwork into its layer, as large as the old', async () => {
    const id = await addMark(test, Buffer.from(MARK_SVG), 'red.svg');
    const view = await opened(id);
    const before = await save(id, {
      ...view.design,
      layers: [...view.design.layers, ...design([words('Ines', { place: { y: 400 } })]).layers],
    });
    const padded = join(test.pictures, 'padded.png');
    await writePaddedMark(padded);
    const answer = await send(`/api/marks/${id}/artwork`, readFileSync(padded), 'padded.png');
    expect(answer.status, answer.body.message).toBe(200);
    expect(answer.body.version).toBe(before.version + 1);
    const after = await opened(id);
    expect(after.design.layers.map(({ kind }) => kind)).toEqual(['artwork', 'lettering']);
    const [layer] = after.design.layers;
    const part = layer.kind === 'artwork' ? after.parts[layer.part] : null;
    expect(part?.kind).toBe('png');
    expect((part?.ink.width ?? 0) * layer.place.scaleX).toBeCloseTo(1_000, 0);
  });

  it('can be lifted again though it has become a layer, and keeps its finishes', async () => {
    const scan = await send('/api/scans', readFileSync(SIGNATURE_SCAN), 'signature.png');
    const settings = DEFAULT_LIFT;
    const lift = (markId: number | null) =>
      test.api.post(`/api/scans/${scan.body.id}/lift`).send({ settings, name: 'Lifted', markId });
    const { id } = (await lift(null).expect(201)).body as MarkView;
    const view = await opened(id);
    const [layer] = view.design.layers;
    await save(id, { ...view.design, layers: [{ ...layer, finishes: [defaultFinish('glow')] }] });
    const known = (await test.api.get(`/api/marks/${id}/origin`)).body;
    expect(known).toMatchObject({ kind: 'paper', scanId: scan.body.id });
    const again = (await lift(id).expect(201)).body as MarkView;
    expect(again).toMatchObject({ id, origin: 'design', scanId: scan.body.id });
    expect((await opened(id)).design.layers[0].finishes).toEqual([defaultFinish('glow')]);
  });

  it('is outlined along its contour, not its box', async () => {
    const answer = await send('/api/parts', Buffer.from(LOGO_SVG), 'logo.svg');
    expect(answer.status, answer.body.message).toBe(201);
    const { key, part, name } = answer.body as PartView;
    expect(name).toBe('logo.svg');
    expect(part.kind === 'svg' && part.svg).not.toMatch(/id="x"|[^.\w-]\.a\{/);
    const finishes = [{ ...defaultFinish('outline'), colour: '#00ff00', width: 1 }];
    const layer = { kind: 'artwork', id: 'a', part: key, place: { scaleX: 10, scaleY: 10 } };
    const mark = await compose(design([{ ...layer, finishes }]));
    const { data, info } = await raster(mark, 'original', 384);
    const at = (x: number, y: number): number[] => {
      const from = (Math.floor(info.height * y) * info.width + Math.floor(info.width * x)) * 4;
      return [...data.subarray(from, from + 4)];
    };
    expect(at(0.2, 0.5)).toEqual([204, 0, 0, 255]);
    expect(at(0.72, 0.5)).toEqual([0, 102, 204, 255]);
    // Beside the circle's upper right there is nothing, though it is inside of the box.
    expect(at(0.98, 0.05)[3]).toBe(0);
    expect(at(0.003, 0.5).slice(0, 3)).toEqual([0, 255, 0]);
  });
});

describe('the year of the photo', () => {
  it('is written on each photo, as wide as it is, and the run says where it is the file’s', async () => {
    const photos = join(test.pictures, 'years');
    mkdirSync(photos);
    await writeCameraJpeg(join(photos, 'a.jpg'), { ...SIZE, taken: '2011:04:11 06:11:02' });
    await writeCameraJpeg(join(photos, 'b.jpg'), { ...SIZE, taken: '2026:04:11 06:11:02' });
    await writeJpeg(join(photos, 'c.jpg'), SIZE);
    utimesSync(join(photos, 'c.jpg'), new Date(), new Date('2007-03-04T12:00:00'));
    const mark = await compose(design([words('© {year}')]), 'Dated');
    const batchId = await addBatch(test, photos);
    const known = (await test.api.get('/api/marks')).body.find(
      ({ id }: MarkView) => id === mark.id,
    ) as MarkView;
    expect(known.tokens).toEqual(['year']);
    const years = [2007, 2011, 2026];
    const shapes = await test.api
      .post(`/api/marks/${mark.id}/shapes`)
      .send({ version: known.version, words: years.map((year) => [String(year)]) });

    const out = join(test.pictures, 'out');
    mkdirSync(out);
    const png = { resize: null, file: { type: 'png' } };
    const rule = ruleOf({
      ...{ tone: { tone: '#ff00ff' }, opacity: 1, anchor: 'centre' },
      size: { basis: 'height', value: 20 },
    });
    const wish = wishOf({
      ...{ batchId, markId: mark.id, rule },
      deliveryIds: [await addDelivery(test, png, out)],
    });
    const plan = await test.api.post('/api/runs/plan').send(wish);
    expect(plan.body.undated).toBe(1);
    const { items } = await runToEnd(test, wish);
    expect(items.map(({ status }) => status)).toEqual(['written', 'written', 'written']);
    expect(items.map(({ note }) => note)).toEqual([
      null,
      null,
      expect.stringContaining('2007, the year of its file'),
    ]);
    const widths = items.map(({ placement }) => placement?.copies[0].size.width ?? 0);
    const yearOf: Record<string, number> = { 'a.jpg': 2011, 'b.jpg': 2026, 'c.jpg': 2007 };
    for (const [index, item] of items.entries()) {
      const year = yearOf[item.sourceName];
      const shape = (shapes.body as MarkShapeView[])[years.indexOf(year)];
      const aspect = (shape?.ink.width ?? 0) / (shape?.ink.height ?? 1);
      expect(widths[index]).toBeCloseTo(0.2 * SIZE.height * aspect, 3);
      await expectYear(
        join(out, item.outputName ?? ''),
        known,
        year,
        item.placement?.copies[0].box,
      );
    }
    // 2011 is narrower than 2026 in most fonts, and is not stretched.
    expect(widths[0]).toBeLessThan(widths[1]);
  });

  const SIZE = { width: 600, height: 400 };

  /** The magenta pixels of an output are those of a picture of the mark in that year. */
  async function expectYear(
    path: string,
    mark: MarkView,
    year: number,
    box: { x: number; y: number; width: number; height: number } | undefined,
  ): Promise<void> {
    if (!box) throw new Error('no box');
    const { data, width, channels } = await rawOf(path);
    const other = year === 2026 ? 2011 : 2026;
    const apart = { right: 0, wrong: 0 };
    for (const [key, shown] of [
      ['right', year],
      ['wrong', other],
    ] as const) {
      const drawn = await raster(mark, 'original', 384, shown);
      const wide = Math.round(box.width);
      const tall = Math.round(box.height);
      const wanted = await sharp(drawn.data, { raw: { ...drawn.info, channels: 4 } })
        .resize(wide, tall, { fit: 'fill' })
        .raw()
        .toBuffer();
      for (let y = 0; y < tall; y++) {
        for (let x = 0; x < wide; x++) {
          const from = ((Math.round(box.y) + y) * width + Math.round(box.x) + x) * channels;
          const isInk = data[from] - data[from + 1] > 90 && data[from + 2] - data[from + 1] > 90;
          if (isInk !== wanted[(y * wide + x) * 4 + 3] > 128) apart[key]++;
        }
      }
      apart[key] /= wide * tall;
    }
    expect(apart.right, `${year}`).toBeLessThan(0.1);
    expect(apart.wrong, `${other} on ${year}`).toBeGreaterThan(apart.right * 1.8);
  }
});

describe('a mark’s own file', () => {
  async function exported(mark: MarkView): Promise<string> {
    const answer = await test.api.get(`/api/marks/${mark.id}/download`).query({ type: 'svg' });
    return answer.body.toString('utf8');
  }

  it('brings the same mark into a library, with artwork and layers', async () => {
    const part = (await send('/api/parts', Buffer.from(LOGO_SVG), 'logo.svg')).body as PartView;
    const wish = design(
      [
        { kind: 'artwork', id: 'a', name: 'Logo', part: part.key, place: { x: -200 } },
        words('Quillon', { finishes: [defaultFinish('bevel')] }),
      ],
      { finishes: [defaultFinish('glow')] },
    );
    const svg = await exported(await compose(wish, 'Carried over'));
    const other = await openHouse();
    try {
      const answer = await other.api
        .post('/api/marks')
        .query({ name: 'file.svg' })
        .type('application/octet-stream')
        .send(Buffer.from(svg));
      expect(answer.status, answer.body.message).toBe(201);
      expect(answer.body).toMatchObject({ name: 'Carried over', origin: 'design', notes: [] });
      const view = (await other.api.get(`/api/marks/${answer.body.id}/design`)).body as DesignView;
      expect(view.design).toEqual(wish);
      expect(Object.keys(view.parts)).toEqual([part.key]);
      // It can be changed there: its artwork is known to that library now.
      await other.api
        .put(`/api/marks/${answer.body.id}/design`)
        .send({ design: view.design })
        .expect(200);
    } finally {
      await other.close();
    }
  });

  it.each([
    ['cut short', (svg: string) => svg.replace(/"format":"light-crest\/mark"/, '"format":"light')],
    [
      'robbed of its artwork',
      (svg: string) => svg.replace(/"parts":\{.*?\}\}(?=<\/metadata>)/s, '"parts":{}}'),
    ],
    ['given a value that cannot be', (svg: string) => svg.replace(/"opacity":1/, '"opacity":7')],
  ])('with a model that was %s comes in as plain artwork and says so', async (_, damage) => {
    const part = (await send('/api/parts', Buffer.from(LOGO_SVG), 'logo.svg')).body as PartView;
    const mark = await compose(
      design([{ kind: 'artwork', id: 'a', name: 'Logo', part: part.key }]),
      'To be damaged',
    );
    const svg = await exported(mark);
    const damaged = damage(svg);
    expect(damaged).not.toBe(svg);
    const answer = await send('/api/marks', Buffer.from(damaged), 'damaged.svg');
    expect(answer.status, answer.body.message).toBe(201);
    expect(answer.body.origin).toBe('file');
    expect(answer.body.notes.join()).toContain('editable part is damaged');
    expect(answer.body.ink.width / answer.body.ink.height).toBeCloseTo(
      mark.ink.width / mark.ink.height,
      1,
    );
  });

  it('cannot reach out of its own artwork, nor mean another font by a number', async () => {
    const part = (await send('/api/parts', Buffer.from(LOGO_SVG), 'logo.svg')).body as PartView;
    const own = (await send('/api/fonts', Buffer.from(faceBytes('caveat')), 'Caveat.ttf'))
      .body as FontView;
    const layers = [
      { kind: 'artwork', id: 'a', name: 'Logo', part: part.key },
      words('Ines', { lettering: { text: 'Ines', font: font(own.id) } }),
    ];
    const svg = await exported(await compose(design(layers), 'From a stranger'));
    const scope = /class=\\"(a[0-9a-f]{8})\\"/.exec(svg)?.[1] ?? 'none';
    const strange = svg.replaceAll(`.${scope} .a`, '*').replaceAll(part.key, 'f00d');
    expect(strange).not.toBe(svg);
    const answer = await send('/api/marks', Buffer.from(strange), 'strange.svg');
    expect(answer.body).toMatchObject({ origin: 'design' });
    const view = await opened(answer.body.id);
    const [kept] = Object.values(view.parts);
    expect(kept.kind === 'svg' && kept.svg).not.toMatch(/[>,}]\s*\*/);
    expect(JSON.stringify(view.design)).not.toContain(own.id);
    // Whatever the file called its artwork, it can be saved here.
    await save(answer.body.id, view.design);

    const injected = { ...part.part, kind: 'png', png: 'AAAA" onload="alert(1)', svg: undefined };
    const damaged = svg.replace(
      /"parts":\{.*?\}\}(?=<\/metadata>)/s,
      `"parts":${JSON.stringify({ [part.key]: injected }).replace(/[<>&]/g, '')}}`,
    );
    expect((await send('/api/marks', Buffer.from(damaged), 'damaged.svg')).body.origin).toBe(
      'file',
    );
  });

  it('is drawn in tones and with the photo’s year by the command line', async () => {
    const mark = await compose(
      design([words('{year}', { colour: '#00ff00', finishes: [defaultFinish('outline')] })]),
      'For the terminal',
    );
    writeFileSync(join(test.pictures, 'own.svg'), await exported(mark));
    const photo = join(test.pictures, 'cli.jpg');
    await writeJpeg(photo, { width: 400, height: 300 });
    utimesSync(photo, new Date(), new Date('2009-06-01T12:00:00'));
    const made = await call(
      'mark',
      'own.svg',
      '--out',
      'own.png',
      '--tone',
      'dark',
      '--width',
      '400',
    );
    expect(made.status, made.err).toBe(0);
    const { data, width } = await rawOf(join(test.pictures, 'own.png'));
    expect(width).toBe(400);
    const seen = new Set<number>();
    for (let at = 0; at < data.length; at += 4) if (data[at + 3] > 250) seen.add(data[at]);
    // Black ink with a contrasting, white outline.
    expect(seen.has(0) && seen.has(255)).toBe(true);
    const applied = await call('apply', '--mark', 'own.svg', '--out', 'marked', 'cli.jpg');
    expect(applied.status).toBe(0);
    expect(applied.err).toContain('the mark says 2009, the year of the file');
  });

  function call(...args: string[]): Promise<{ status: number; err: string }> {
    return new Promise((done) => {
      execFile(BIN, args, { cwd: test.pictures }, (error, _, err) => {
        done({ status: error ? Number(error.code) : 0, err });
      });
    });
  }
});

describe('fonts that are added', () => {
  const add = async (bytes: Uint8Array, name: string) =>
    send('/api/fonts', Buffer.from(bytes), name);

  it('are checked and kept, as WOFF2 too, a family together', async () => {
    const plain = await add(faceBytes('cinzel'), 'Cinzel.ttf');
    expect(plain.status, plain.body.message).toBe(201);
    const packed = await compress(faceBytes('cinzel', '700'));
    const bold = await add(packed, 'Cinzel bold.woff2');
    expect(bold.status, bold.body.message).toBe(201);
    const family = bold.body as FontView;
    expect(family).toMatchObject({ kind: 'own', faces: [{ weight: 400 }, { weight: 700 }] });
    expect(family.id).toBe((plain.body as FontView).id);
    const face = await test.api.get(`/api/fonts/${family.id}/700/upright`);
    expect(face.headers['content-type']).toContain('font/ttf');
  });

  it.each([
    ['words.ttf', Buffer.from('no font at all')],
    ['cut.otf', Buffer.from(faceBytes('allura').subarray(0, 900))],
    ['torn.woff2', Buffer.concat([Buffer.from('wOF2'), Buffer.alloc(400, 7)])],
    ['nothing.ttf', Buffer.alloc(0)],
  ])('are refused with a reason: %s', async (name, bytes) => {
    const answer = await add(bytes, name);
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain(`${name}: Expected a font`);
  });

  it('leave their outlines in the marks set in them', async () => {
    const { id } = (await add(faceBytes('alex-brush'), 'Alex.ttf')).body as FontView;
    const layer = words('Ines', { lettering: { text: 'Ines', font: font(id) } });
    const mark = await compose(design([layer]), 'In my own font');
    const svg = (await test.api.get(`/api/marks/${mark.id}/download`).query({ type: 'svg' })).body;
    const model = markModelOf(svg.toString('utf8'));
    expect(model.ok && JSON.stringify(model.value)).toContain('"kept":"M');
    await test.api.delete(`/api/fonts/${id}`).expect(200);
    expect(existsSync(join(test.folder, 'fonts', id))).toBe(false);
    // A library that never had the font shows the same words.
    const again = await send('/api/marks', Buffer.from(svg), 'own-font.svg');
    expect(again.body.origin).toBe('design');
    expect(again.body.ink.width).toBeCloseTo(mark.ink.width, 0);
  });

  it('cannot be asked for outside of their folder', async () => {
    for (const path of [
      '..%2f..%2fpackage/400/upright',
      'own-1/400/../../x',
      'nobody/400/upright',
    ]) {
      expect((await test.api.get(`/api/fonts/${path}`)).status).toBeGreaterThanOrEqual(400);
    }
  });
});

describe('sets of finishes', () => {
  it('are kept under a name, replaced under the same, and removed', async () => {
    const glow = [defaultFinish('glow')];
    await test.api.post('/api/finish-sets').send({ name: 'Soft', finishes: glow }).expect(201);
    const shadow = [defaultFinish('shadow')];
    const all = await test.api.post('/api/finish-sets').send({ name: 'Soft', finishes: shadow });
    expect(all.body).toEqual([{ id: expect.any(Number), name: 'Soft', finishes: shadow }]);
    const left = await test.api.delete(`/api/finish-sets/${all.body[0].id}`);
    expect(left.body).toEqual([]);
  });
});
