import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { converter, differenceCiede2000 } from 'culori';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { scene } from '../helpers/makePhoto.ts';
import { openPassHouse, p3Profile, valueOf, wideGamut, type PassHouse } from '../helpers/passes.ts';

/** Colours of outputs against conversions by another library. */

let house: PassHouse;
beforeAll(async () => {
  house = await openPassHouse();
});
afterAll(() => house.close());

const difference = differenceCiede2000();
const toSrgb = converter('rgb');
const toP3 = converter('p3');
const MARK = { mode: 'rgb', r: 0xd0 / 255, g: 0x10 / 255, b: 0x30 / 255 } as const;

/** The numbers of a file as they are stored, whatever they mean. */
async function numbersOf(path: string) {
  const { data, info } = await sharp(path, { ignoreIcc: true })
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return (x: number, y: number) => [
    ...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3),
  ];
}

const asP3 = ([r, g, b]: readonly number[]) => ({
  mode: 'p3' as const,
  r: r / 255,
  g: g / 255,
  b: b / 255,
});
const asSrgb = ([r, g, b]: readonly number[]) => ({
  mode: 'rgb' as const,
  r: r / 255,
  g: g / 255,
  b: b / 255,
});

const PATCH_PX = 40;
const GREYS = [0, 40, 128, 220, 255].map((level) => [level, level, level]);
/** Numbers of Display P3 that sRGB has as well. */
const MILD = [
  [180, 90, 70],
  [90, 150, 90],
  [70, 90, 170],
  [200, 190, 120],
  [150, 120, 170],
  [100, 160, 170],
];
/** And some that it has not. */
const WIDE = [
  [250, 30, 20],
  [20, 240, 40],
  [30, 40, 250],
];

async function patches(name: string): Promise<string> {
  const path = join(house.folder, name);
  const colours = [...GREYS, ...MILD, ...WIDE];
  const width = colours.length * PATCH_PX;
  // Room for the mark, in grey, below the patches.
  const data = new Uint8Array(width * 10 * PATCH_PX * 3).fill(128);
  for (let y = 0; y < PATCH_PX; y++) {
    for (let x = 0; x < width; x++)
      data.set(colours[Math.floor(x / PATCH_PX)], (y * width + x) * 3);
  }
  writeFileSync(path, await wideGamut(data, width));
  return path;
}

const inPatch = (index: number) => [index * PATCH_PX + PATCH_PX / 2, PATCH_PX / 2] as const;
const BELOW = { anchor: 'bottom', opacity: 1, size: { basis: 'width', value: 40 } };

describe('a photo of a wide gamut', () => {
  it('looks the same as sRGB, where sRGB has its colours', async () => {
    const output = house.output({ resize: null, file: { type: 'png' } }, BELOW);
    (await house.render(await patches('to srgb.png'), [output])).forEach(valueOf);
    const at = await numbersOf(output.temporaryPath);
    for (const [index, colour] of [...GREYS, ...MILD].entries()) {
      const expected = toSrgb(asP3(colour));
      expect(difference(expected, asSrgb(at(...inPatch(index))))).toBeLessThan(1);
    }
  });

  const TYPES = ['png', 'jpeg', 'tiff', 'webp', 'avif'];
  it.each(TYPES.flatMap((type) => [[type, null] as const, [type, 300] as const]))(
    'keeps its numbers and profile in %s of %s dpi, and the mark looks like itself',
    async (type, dpi) => {
      const file = { type, quality: 100 };
      const output = house.output({ resize: null, file, dpi, colour: 'photo' }, BELOW);
      const source = await patches(`kept ${type} ${dpi}.png`);
      const [made] = (await house.render(source, [output])).map(valueOf);
      expect(made.note).toBeNull();
      const { icc, density } = await sharp(output.temporaryPath).metadata();
      expect(icc).toEqual(await p3Profile());
      // In the others it stands in EXIF alone.
      if (dpi !== null && !['webp', 'avif'].includes(type)) expect(density).toBe(dpi);
      const at = await numbersOf(output.temporaryPath);
      const loss = type === 'png' || type === 'tiff' ? 0 : 2;
      for (const [index, colour] of [...GREYS, ...MILD, ...WIDE].entries()) {
        const found = at(...inPatch(index));
        found.forEach((level, c) => expect(Math.abs(level - colour[c])).toBeLessThanOrEqual(loss));
      }
      const box = made.marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2].map(Math.round);
      expect(difference(MARK, asP3(at(x, y)))).toBeLessThan(loss ? 1.5 : 1);
      // The same numbers without a conversion would be another red.
      expect(difference(MARK, toP3({ ...MARK, mode: 'p3' }))).toBeGreaterThan(1.5);
    },
  );

  it('shares no decode with an output of sRGB, and both are right', async () => {
    const photo = await patches('both.png');
    const png = { resize: null, file: { type: 'png' } };
    const outputs = ['srgb', 'photo'].map((colour) => house.output({ ...png, colour }, BELOW));
    (await house.render(photo, outputs)).forEach(valueOf);
    const [srgb, own] = await Promise.all(
      outputs.map(({ temporaryPath }) => numbersOf(temporaryPath)),
    );
    const place = inPatch(GREYS.length);
    expect(own(...place)).toEqual(MILD[0]);
    expect(srgb(...place)).not.toEqual(MILD[0]);
  });

  it('keeps 16 bits and its profile at once', async () => {
    const path = join(house.folder, 'deep wide.png');
    const data = new Uint16Array(300 * 200 * 3).map((_, at) => 9_000 + ((at * 7_919) % 40_000));
    writeFileSync(path, await wideGamut(data, 300));
    const output = house.output({ resize: null, file: { type: 'tiff' }, colour: 'photo' }, BELOW);
    (await house.render(path, [output])).forEach(valueOf);
    const found = await sharp(output.temporaryPath, { ignoreIcc: true })
      .pipelineColourspace('rgb16')
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer();
    const samples = new Uint16Array(found.buffer, found.byteOffset, found.length / 2);
    expect([...samples.subarray(0, 900)]).toEqual([...data.subarray(0, 900)]);
  });
});

describe('other colours', () => {
  it('of print become sRGB, and that is told', async () => {
    const path = join(house.folder, 'print.jpg');
    await scene({ width: 300, height: 200 }).toColourspace('cmyk').jpeg().toFile(path);
    const output = house.output({ resize: null, colour: 'photo' });
    const [made] = (await house.render(path, [output])).map(valueOf);
    expect(made.note).toBe('Its colours were CMYK, for printing, and became sRGB.');
    expect(await sharp(output.temporaryPath).metadata()).toMatchObject({ space: 'srgb' });
  });

  it('of one channel become sRGB, and that is told', async () => {
    const path = join(house.folder, 'grey.jpg');
    await scene({ width: 300, height: 200 }).toColourspace('b-w').jpeg().toFile(path);
    const output = house.output({ resize: null, colour: 'photo' });
    const [made] = (await house.render(path, [output])).map(valueOf);
    expect(made.note).toBe('It was grey, of one channel, and became sRGB of three.');
  });

  it('of a damaged profile are taken for sRGB', async () => {
    const path = join(house.folder, 'odd profile.jpg');
    const plain = await scene({ width: 300, height: 200 }).jpeg().toBuffer();
    const payload = Buffer.concat([
      Buffer.from('ICC_PROFILE\0\u0001\u0001', 'latin1'),
      Buffer.alloc(600, 7),
    ]);
    const head = Buffer.from([0xff, 0xe2, 0, 0]);
    head.writeUInt16BE(payload.length + 2, 2);
    writeFileSync(path, Buffer.concat([plain.subarray(0, 2), head, payload, plain.subarray(2)]));
    const output = house.output({ resize: null, colour: 'photo' });
    expect(await house.render(path, [output])).toMatchObject([{ ok: true }]);
  });
});
