import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import type { Box } from '#core/placement/geometry';
import { PROJECT_FOLDER } from '#server/projectFolder';
import { canvasCells } from '#core/verify/coarseCells';
import { readBack } from '#server/imaging/readBack/readBack';
import { verifyOutput } from '#server/imaging/readBack/verifyOutput';
import { cutShort, scene, writeCameraJpeg } from '../helpers/makePhoto.ts';
import { openPassHouse, valueOf, type PassHouse } from '../helpers/passes.ts';

/** Outputs that are opened again: good ones pass, whatever their type; others do not. */

let house: PassHouse;
beforeAll(async () => {
  house = await openPassHouse();
});
afterAll(() => house.close());

const DEMO = ['NC26_0098_marram-on-the-dunes.jpg', 'NC26_0077_rowing-home.jpg'];
const KINDS: readonly (readonly [string, object, object])[] = [
  ['a usual JPEG', {}, {}],
  ['a coarse one', { file: { quality: 30, chroma: '4:2:0' } }, {}],
  ['a small and bad one', { resize: { px: 500 }, file: { quality: 10 } }, {}],
  ['one with a limit', { file: { max_bytes: 60_000 } }, {}],
  ['a coarse WebP', { file: { type: 'webp', quality: 40 } }, {}],
  ['an AVIF', { resize: { px: 900 }, file: { type: 'avif', quality: 30 } }, {}],
  ['a sharp PNG', { resize: { px: 1_200 }, sharpen: 'high', file: { type: 'png' } }, {}],
  ['a TIFF', { resize: { px: 300 }, file: { type: 'tiff' } }, {}],
  ['an untouched one', { resize: null, file: { quality: 'untouched' } }, {}],
  ['a faint mark', {}, { opacity: 0.1 }],
];

const demoPhoto = async (name: string): Promise<string> => {
  const { readdirSync } = await import('node:fs');
  const folder = join(PROJECT_FOLDER, 'demo/photos');
  const found = readdirSync(folder).find((some) => some.startsWith(name.slice(0, 9)));
  return join(folder, found ?? name);
};

const near = (found: Box | null | undefined, placed: Box | undefined, px: number) => {
  expect(found).not.toBeNull();
  for (const side of ['x', 'y', 'width', 'height'] as const) {
    expect(Math.abs((found?.[side] ?? NaN) - (placed?.[side] ?? NaN))).toBeLessThanOrEqual(px);
  }
};

describe.each(DEMO)('outputs of %s', (name) => {
  it.each(KINDS)('are found good: %s', async (_, delivery, rule) => {
    const source = await demoPhoto(name);
    const output = house.output(delivery, { ...rule, anchor: 'bottom-right' });
    const [made] = (await house.render(source, [output], { readsBack: true })).map(valueOf);
    const box = made.marks[0]?.placement.copies[0].box;
    expect(made.readBack).toMatchObject({
      ...{ decodes: true, frame: made.frame, orientation: 1, problem: null },
      mark: { found: true },
    });
    near(made.readBack?.mark?.box, box, 0.001);
    const verified = await verifyOutput(source, output.temporaryPath);
    expect(verified).toMatchObject({ ok: true, value: { problem: null, mark: { found: true } } });
    // To a few cells: the first and last of them are half mark, half photo.
    const cell = Math.max(2, Math.round(Math.max(made.frame.width, made.frame.height) / 700));
    if (verified.ok) near(verified.value.mark?.box, box, 5 * cell);
  });
});

describe('small outputs', () => {
  const FILES = [{ quality: 80, chroma: '4:2:0' }, { type: 'webp', quality: 50 }, { type: 'avif' }];
  it.each([24, 60, 100, 160, 250, 640])('of %i px are found good', async (px) => {
    // Of foam, whose every pixel differs from the next: codecs lose most of it.
    const source = await demoPhoto('NC26_0312');
    const rule = { size: { basis: 'long-side', value: 40 }, anchor: 'bottom-right' };
    const outputs = FILES.map((file) => house.output({ resize: { px }, file }, rule));
    for (const made of await house.render(source, outputs, { readsBack: true })) {
      expect(valueOf(made).readBack).toMatchObject({ problem: null, mark: { found: true } });
    }
  });
});

it('an output of fine stripes is compared by the means of cells, whatever lies beside them', async () => {
  const source = join(house.folder, 'stripes.png');
  const [width, height] = [800, 480];
  const data = Buffer.alloc(width * height * 3);
  for (let at = 0; at < data.length; at++) data[at] = Math.floor(at / 3) % 18 < 9 ? 225 : 30;
  await sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toFile(source);
  const files = ['jpeg', 'webp', 'avif'].map((type) => ({ type, quality: 90 }));
  const more = [{ type: 'jpeg', quality: 90, progressive: true }, { type: 'tiff' }];
  const outputs = [...files, ...more].map((file) => house.output({ resize: null, file }));
  for (const made of await house.render(source, outputs, { readsBack: true })) {
    const { problem, elsewhere } = valueOf(made).readBack ?? {};
    expect(problem).toBeNull();
    expect(elsewhere?.mean).toBeLessThan(2);
  }
});

describe('an output', () => {
  let source: string;
  let output: string;
  beforeAll(async () => {
    source = join(house.folder, 'source.jpg');
    await writeCameraJpeg(source, { width: 1_500, height: 1_000, orientation: 6 });
    const job = house.output({ resize: { px: 1_200 } }, { anchor: 'bottom-right' });
    (await house.render(source, [job])).forEach(valueOf);
    output = job.temporaryPath;
  });

  const changed = async (name: string, change: (photo: Sharp) => Sharp) => {
    const path = join(house.folder, name);
    await change(sharp(output)).toFile(path);
    return path;
  };
  const problemOf = async (path: string) => {
    const verified = await verifyOutput(source, path);
    return verified.ok ? verified.value.problem : verified.reason;
  };

  it('of a turned photo is good', async () => {
    expect(await problemOf(output)).toBeNull();
  });

  it('that was cut short does not decode', async () => {
    const cut = join(house.folder, 'cut.jpg');
    cutShort(output, cut, 0.7);
    expect(await verifyOutput(source, cut)).toMatchObject({
      value: {
        decodes: false,
        problem: 'cut.jpg is damaged or cut short and cannot be read whole.',
      },
    });
    const empty = join(house.folder, 'empty.jpg');
    writeFileSync(empty, '');
    expect(await problemOf(empty)).toBe('empty.jpg is empty: it has no bytes at all.');
  });

  it.each([
    ['that lies on its side', (photo: Sharp) => photo.rotate(90), /shape/],
    ['that is upside down', (photo: Sharp) => photo.rotate(180), /elsewhere/],
    ['that is mirrored', (photo: Sharp) => photo.flop(), /elsewhere/],
    ['that is darker', (photo: Sharp) => photo.modulate({ brightness: 0.7 }), /elsewhere/],
    [
      'with something else on it',
      (photo: Sharp) =>
        photo.composite([
          {
            input: { create: { width: 60, height: 60, channels: 3, background: '#404040' } },
            ...{ left: 100, top: 100 },
          },
        ]),
      /elsewhere/,
    ],
  ])('%s is not', async (name, change, reason) => {
    const path = await changed(`${name}.jpg`, change);
    expect(await problemOf(path)).toMatch(reason);
  });

  it('without a mark, or of another photo, is not', async () => {
    const bare = join(house.folder, 'bare.jpg');
    await sharp(source).autoOrient().resize(800).jpeg().toFile(bare);
    expect(await problemOf(bare)).toBe('It has no mark that can be seen.');
    const other = join(house.folder, 'other.jpg');
    await sharp(await demoPhoto(DEMO[0]))
      .resize(800, 1_200, { fit: 'fill' })
      .jpeg()
      .toFile(other);
    expect(await problemOf(other)).toMatch(/elsewhere/);
  });

  it('fails to be verified where there is no photo to go by', async () => {
    expect(await verifyOutput(join(house.folder, 'none.jpg'), output)).toMatchObject({ ok: false });
  });
});

describe.each([
  // Small ones go through a decoder; of large ones, none of it but the means of blocks is looked at.
  [{ width: 640, height: 480 }],
  [{ width: 1_611, height: 1_203 }],
])('a file of $width × $height px that was just written', ({ width, height }) => {
  const file = deliveryRuleSchema.parse({}).file;
  const covered = [{ x: 400, y: 400, width: 200, height: 60 }];

  async function expected() {
    const { data } = await scene({ width, height }).raw().toBuffer({ resolveWithObject: true });
    const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
    const canvas = { width, height, channels: 3, depth: 8, space: 'srgb', data: pixels } as const;
    const without = canvasCells(canvas);
    for (let y = top; y < top + INK.height; y++) {
      pixels.fill(230, (y * width + left) * 3, (y * width + left + INK.width) * 3);
    }
    const mark = { box: covered[0], covered, without };
    const cells = canvasCells(canvas);
    return { frame: { width, height }, orientation: 1, icc: null, file, cells, mark };
  }

  const [left, top] = [400, 400];
  const INK = { width: 200, height: 60 };
  const drawn = (photo: Sharp, level = 230): Sharp => {
    const [r, g, b] = [level, level, level];
    const create = { ...INK, channels: 3, background: { r, g, b } } as const;
    return photo.composite([{ input: { create }, left, top }]);
  };

  async function problemOf(change: (photo: Sharp) => Sharp) {
    const path = join(house.folder, 'written.jpg');
    const options = { quality: 90, chromaSubsampling: '4:4:4' };
    await change(scene({ width, height })).jpeg(options).toFile(path);
    return (await readBack(path, await expected())).problem;
  }

  it('is what was to be written, or the reason why not is told', async () => {
    expect(await problemOf(drawn)).toBeNull();
    expect(await problemOf((photo) => photo)).toBe('The mark is not as it was drawn.');
    expect(await problemOf((photo) => photo.resize(320, 240))).toBe(
      `It has 320 × 240 px, not ${width} × ${height}.`,
    );
    expect(await problemOf((photo) => drawn(photo).withMetadata({ orientation: 3 }))).toMatch(
      /orientation 3/,
    );
    expect(await problemOf((photo) => drawn(photo).withIccProfile('p3'))).toMatch(
      /^Its profile is/,
    );
    expect(await problemOf((photo) => photo.negate())).toBe(
      'Beside the mark it differs from the photo.',
    );
    expect(await problemOf((photo) => drawn(photo, 20))).toBe('The mark is not as it was drawn.');
  });

  it('that is no picture, or not a whole one, does not decode', async () => {
    const path = join(house.folder, 'nothing.jpg');
    const isDamaged = async () => {
      expect(await readBack(path, await expected())).toMatchObject({ decodes: false, frame: null });
    };
    writeFileSync(path, 'nothing');
    await isDamaged();
    const whole = await drawn(scene({ width, height }))
      .jpeg({ chromaSubsampling: '4:4:4' })
      .toBuffer();
    writeFileSync(path, whole);
    expect(await readBack(path, await expected())).toMatchObject({ decodes: true, problem: null });
    writeFileSync(path, whole.subarray(0, whole.length * 0.999));
    await isDamaged();
    const middle = Math.floor(whole.length / 2);
    // Whoever goes on after that as if it were a picture gets another one.
    writeFileSync(path, whole.fill(0, middle, middle + 4_096));
    expect((await readBack(path, await expected())).problem).not.toBeNull();
  });
});

describe('a large JPEG that an encoder of ours made', () => {
  it('is damaged where a single byte of it is another, whichever that is', async () => {
    const output = house.output({}, {});
    const [made] = (await house.render(await demoPhoto(DEMO[0]), [output])).map(valueOf);
    const written = readFileSync(output.temporaryPath);
    const { data, info } = await sharp(written).raw().toBuffer({ resolveWithObject: true });
    const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
    const { width, height } = info;
    const canvas = { width, height, channels: 3, depth: 8, space: 'srgb', data: pixels } as const;
    const { icc = null } = await sharp(written).metadata();
    const { file } = deliveryRuleSchema.parse({});
    const expected = { frame: made.frame, orientation: 1, icc, file, cells: canvasCells(canvas) };
    const path = join(house.folder, 'byte.jpg');
    const found = async (bytes: Buffer, parts = [written]) => {
      writeFileSync(path, bytes);
      return readBack(path, { ...expected, mark: null, parts });
    };
    const [head, tail] = [written.subarray(0, 99), written.subarray(99)];
    expect(await found(written)).toMatchObject({ decodes: true, problem: null });
    expect(await found(written, [head, tail])).toMatchObject({ decodes: true, problem: null });
    for (const share of [0.2, 0.5, 0.7, 0.99]) {
      const bytes = Buffer.from(written);
      bytes[Math.floor(bytes.length * share)] ^= 1;
      expect(await found(bytes)).toMatchObject({ decodes: false });
    }
    expect(await found(Buffer.concat([written, head]))).toMatchObject({ decodes: false });
    expect(await found(written, [head, tail, head])).toMatchObject({ decodes: false });
  });
});
