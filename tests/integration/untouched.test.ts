import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Box } from '#core/placement/geometry';
import { blockOf, jpegFacts } from '#server/imaging/jpeg/jpegFacts';
import { runTool } from '#server/imaging/untouched/jpegTools';
import { cutShort, scene, writeCameraJpeg } from '../helpers/makePhoto.ts';
import { openPassHouse, p3Profile, valueOf, type PassHouse } from '../helpers/passes.ts';

/** JPEGs of which only the blocks under the mark are encoded again. */

let house: PassHouse;
beforeAll(async () => {
  house = await openPassHouse();
});
afterAll(() => house.close());
afterEach(() => vi.unstubAllEnvs());

const UNTOUCHED = { resize: null, file: { quality: 'untouched' }, metadata: { location: 'keep' } };
const CORNER = { anchor: 'bottom-right', opacity: 1, inset: { unit: 'percent', x: 0, y: 0 } };

let photos = 0;
async function photoOf(
  wish: { width: number; height: number },
  options: object = {},
): Promise<string> {
  const path = join(house.folder, `untouched ${++photos}.jpg`);
  await scene(wish)
    .jpeg({ quality: 88, chromaSubsampling: '4:4:4', ...options })
    .toFile(path);
  return path;
}

/** As stored, without any conversion. */
async function stored(path: string) {
  const { data, info } = await sharp(path, { ignoreIcc: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, ...info };
}

/** Pixels that differ outside and inside of a box, and by how much at most outside. */
async function compared(source: string, output: string, box: Box) {
  const [some, other] = await Promise.all([stored(source), stored(output)]);
  expect([other.width, other.height]).toEqual([some.width, some.height]);
  let [inside, outside, worst] = [0, 0, 0];
  for (let y = 0, at = 0; y < some.height; y++) {
    for (let x = 0; x < some.width; x++) {
      for (let c = 0; c < some.channels; c++, at++) {
        const difference = Math.abs(some.data[at] - other.data[at]);
        if (difference === 0) continue;
        const isInside =
          x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height;
        if (isInside) inside++;
        else {
          outside++;
          worst = Math.max(worst, difference);
        }
      }
    }
  }
  return { inside, outside, worst };
}

/** A box grown to whole blocks, with a rim round it for what decoders smooth of the colours. */
function blocksOf(path: string, { x, y, width, height }: Box, rim = 0): Box {
  const facts = jpegFacts(readFileSync(path));
  if (!facts) throw new Error('no facts');
  const block = blockOf(facts);
  const left = Math.floor((x - 2) / block.width) * block.width - rim;
  const top = Math.floor((y - 2) / block.height) * block.height - rim;
  const right = Math.ceil((x + width + 2) / block.width) * block.width + rim;
  const bottom = Math.ceil((y + height + 2) / block.height) * block.height + rim;
  return { x: left, y: top, width: right - left, height: bottom - top };
}

async function made(source: string, rule: object = CORNER, delivery: object = UNTOUCHED) {
  const output = house.output(delivery, rule);
  const [one] = (await house.render(source, [output])).map(valueOf);
  return { ...one, path: output.temporaryPath };
}

describe('an untouched JPEG', () => {
  it.each([
    ['as usual', {}],
    ['with halved colours', { chromaSubsampling: '4:2:0' }],
    ['progressive', { progressive: true }],
    ['with tables of its own', { quality: 61, optimiseCoding: true }],
  ])('%s is the same in every block that the mark leaves free', async (_, options) => {
    const source = await photoOf({ width: 1_003, height: 701 }, options);
    const { path, marks, note } = await made(source);
    expect(note).toBeNull();
    const box = marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
    const isHalved = 'chromaSubsampling' in options;
    const found = await compared(source, path, blocksOf(source, box, isHalved ? 1 : 0));
    expect(found).toMatchObject({ outside: 0 });
    expect(found.inside).toBeGreaterThan(1_000);
    // Round the rim of a patch, decoders smooth colours over its edge.
    if (isHalved) {
      expect((await compared(source, path, blocksOf(source, box))).worst).toBeLessThanOrEqual(4);
    }
    const { data, width } = await stored(path);
    const middle = Math.round(box.y + box.height / 2) * width + Math.round(box.x + box.width / 2);
    const colour = [...data.subarray(middle * 3, middle * 3 + 3)];
    [0xd0, 0x10, 0x30].forEach((level, c) =>
      expect(Math.abs(colour[c] - level)).toBeLessThanOrEqual(8),
    );
    expect(jpegFacts(readFileSync(path))).toMatchObject({
      process: 'progressive' in options ? 'progressive' : 'sequential',
    });
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'stays turned as it is stored (%i), with the mark where it is looked at',
    async (orientation) => {
      const source = join(house.folder, `turned ${orientation}.jpg`);
      await writeCameraJpeg(source, { width: 603, height: 407, orientation });
      const { path, marks, frame } = await made(source, { ...CORNER, anchor: 'top-right' });
      expect((await sharp(path).metadata()).orientation).toBe(orientation);
      const upright = await sharp(path).autoOrient().raw().toBuffer({ resolveWithObject: true });
      expect([upright.info.width, upright.info.height]).toEqual([frame.width, frame.height]);
      const box = marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
      const at =
        (Math.round(box.y + box.height / 2) * frame.width + Math.round(box.x + box.width / 2)) * 3;
      expect(upright.data[at]).toBeGreaterThan(180);
      expect(upright.data[at + 1]).toBeLessThan(60);
    },
  );

  it('keeps its metadata, but for pictures without the mark and what the delivery drops', async () => {
    const source = join(house.folder, 'camera.jpg');
    await writeCameraJpeg(source, { width: 800, height: 600 });
    const [kept, dropped, bare] = await Promise.all([
      made(source),
      made(source, CORNER, { ...UNTOUCHED, metadata: { location: 'drop', artist: 'Nora Ølund' } }),
      made(source, CORNER, { ...UNTOUCHED, metadata: { keep: 'none' } }),
    ]);
    const all = await exifr.parse(kept.path, true);
    expect(all).toMatchObject({ Make: 'Halden Optics', Artist: 'Ines Marlow' });
    expect(all.GPSLatitude).toBeDefined();
    expect(await exifr.thumbnail(kept.path)).toBeUndefined();
    expect(readFileSync(kept.path).indexOf(Buffer.from([0xff, 0xd8, 0xff]), 2)).toBe(-1);
    const some = await exifr.parse(dropped.path, true);
    expect(some).toMatchObject({ Make: 'Halden Optics', Artist: 'Nora Ølund' });
    expect(some.GPSLatitude).toBeUndefined();
    expect(await exifr.parse(bare.path, true)).not.toMatchObject({ Make: 'Halden Optics' });
  });

  it('without metadata still says how it is turned', async () => {
    const source = join(house.folder, 'turned bare.jpg');
    await writeCameraJpeg(source, { width: 500, height: 400, orientation: 6 });
    const { path } = await made(source, CORNER, { ...UNTOUCHED, metadata: { keep: 'none' } });
    expect((await sharp(path).metadata()).orientation).toBe(6);
  });

  it('keeps its profile, and the mark is drawn in it', async () => {
    const source = join(house.folder, 'p3.jpg');
    await scene({ width: 700, height: 500 })
      .withIccProfile('p3')
      .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
      .toFile(source);
    const { path, marks } = await made(source);
    expect((await sharp(path).metadata()).icc).toEqual(await p3Profile());
    const box = marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
    const { data, width } = await sharp(path)
      .raw()
      .toBuffer({ resolveWithObject: true })
      .then(({ data: bytes, info }) => ({ data: bytes, width: info.width }));
    const at = (Math.round(box.y + box.height / 2) * width + Math.round(box.x + box.width / 2)) * 3;
    [0xd0, 0x10, 0x30].forEach((level, c) =>
      expect(Math.abs(data[at + c] - level)).toBeLessThanOrEqual(6),
    );
  });

  it('is the same picture where it has no mark, and ends where the picture does', async () => {
    const source = await photoOf({ width: 400, height: 300 });
    const trailer = await scene({ width: 80, height: 60 }).jpeg().toBuffer();
    const bytes = readFileSync(source);
    writeFileSync(source, Buffer.concat([bytes, trailer]));
    const { path } = await made(source, CORNER, { ...UNTOUCHED, mark: false });
    expect(readFileSync(path).equals(bytes)).toBe(true);
  });

  it('keeps restarts, grey ones their one channel', async () => {
    const source = await photoOf({ width: 640, height: 480 });
    const restarting = join(house.folder, 'restarts.jpg');
    writeFileSync(restarting, await runTool('jpegtran', ['-restart', '4', source]));
    const { path } = await made(restarting);
    expect(jpegFacts(readFileSync(path))?.restartBlocks).toBe(
      jpegFacts(readFileSync(restarting))?.restartBlocks,
    );
    const grey = join(house.folder, 'grey.jpg');
    await scene({ width: 640, height: 480 }).toColourspace('b-w').jpeg().toFile(grey);
    const marked = await made(grey);
    expect((await sharp(marked.path).metadata()).channels).toBe(1);
    const box = marked.marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
    expect(await compared(grey, marked.path, blocksOf(grey, box))).toMatchObject({ outside: 0 });
  });

  it('takes many copies, and says where what lies between them was encoded again', async () => {
    const source = await photoOf({ width: 1_600, height: 1_200 });
    const few = await made(source, { size: { basis: 'width', value: 5 } });
    expect(few.note).toBeNull();
    const many = await made(source, {
      ...{ size: { basis: 'width', value: 5 } },
      repeat: { gapX: 200, gapY: 400, angle: 0, stagger: false },
    });
    expect(many.note).toBe('What lies between copies of the mark was encoded again as well.');
  });
});

describe('where blocks cannot stay', () => {
  const impossible = async (source: string, reason: RegExp) => {
    const output = house.output(UNTOUCHED, CORNER);
    const [failed] = await house.render(source, [output]);
    expect(failed.ok ? '' : failed.reason).toMatch(reason);
    const [instead] = await house.render(source, [output], { otherQuality: 95 });
    expect(valueOf(instead).note).toMatch(
      /^It could not go out untouched \(.*\), so it has quality 95\./,
    );
    expect((await sharp(output.temporaryPath).metadata()).format).toBe('jpeg');
  };

  it('a PNG and a CMYK JPEG fail with the reason, or take quality 95', async () => {
    const png = join(house.folder, 'some.png');
    await scene({ width: 300, height: 200 }).png().toFile(png);
    await impossible(png, /^some\.png cannot go out untouched: it is not a JPEG\.$/);
    const cmyk = join(house.folder, 'cmyk.jpg');
    await scene({ width: 300, height: 200 }).toColourspace('cmyk').jpeg().toFile(cmyk);
    await impossible(cmyk, /its colours are CMYK/);
  });

  it('one of arithmetic coding as well', async () => {
    const source = await photoOf({ width: 300, height: 200 });
    const arithmetic = join(house.folder, 'arithmetic.jpg');
    writeFileSync(arithmetic, await runTool('jpegtran', ['-arithmetic', source]));
    const output = house.output(UNTOUCHED, CORNER);
    const [failed] = await house.render(arithmetic, [output]);
    expect(failed.ok ? '' : failed.reason).toContain('it is coded arithmetically');
  });

  it('without the tool, the command that brings it is named', async () => {
    const source = await photoOf({ width: 300, height: 200 });
    vi.stubEnv('PATH', house.folder);
    await impossible(source, /this needs jpegtran, which "sudo apt-get install/);
  });

  it('a damaged one fails, and leaves no file', async () => {
    const source = await photoOf({ width: 900, height: 700 });
    const damaged = join(house.folder, 'damaged.jpg');
    cutShort(source, damaged, 0.5);
    const output = house.output(UNTOUCHED, CORNER);
    const [failed] = await house.render(damaged, [output]);
    expect(failed.ok ? '' : failed.reason).toMatch(/^damaged\.jpg is damaged or cut short/);
  });

  it('does not hold up the other outputs of the photo', async () => {
    const png = join(house.folder, 'beside.png');
    await scene({ width: 300, height: 200 }).png().toFile(png);
    const outputs = [house.output(UNTOUCHED), house.output({ resize: null })];
    expect((await house.render(png, outputs)).map(({ ok }) => ok)).toEqual([false, true]);
  });
});
