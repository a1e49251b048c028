import { execFileSync } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import exifr from 'exifr';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withoutPreamble } from '#server/imaging/metadata/exifBlock';
import type { OutputJob } from '#server/imaging/pass/renderJob';
import { eventually } from '../helpers/eventually.ts';
import { pixelsOf, scene } from '../helpers/makePhoto.ts';
import {
  meanDifference,
  openPassHouse,
  valueOf,
  wideGamut,
  type PassHouse,
} from '../helpers/passes.ts';

/** Several outputs of one photo: what is made of one decode, and in which depth. */

let house: PassHouse;
let folder: string;
const output: PassHouse['output'] = (...words) => house.output(...words);
const render: PassHouse['render'] = (...words) => house.render(...words);

beforeAll(async () => {
  house = await openPassHouse();
  ({ folder } = house);
});
afterAll(() => house.close());

const png = (px: number | null, part: object = {}) => ({
  resize: px === null ? null : { px },
  file: { type: 'png' },
  ...part,
});

describe('several outputs of one photo', () => {
  let photo: string;
  beforeAll(async () => {
    photo = join(folder, 'photo.jpg');
    await scene({ width: 3_000, height: 2_000 }).jpeg({ quality: 95 }).toFile(photo);
  });

  it('are those of single ones: the largest to the pixel, others within 0.7 levels', async () => {
    const sizes = [600, null, 1_024, 700, 1_024, 300];
    const together = sizes.map((px) => output(png(px)));
    const alone = sizes.map((px) => output(png(px)));
    const made = (await render(photo, together)).map(valueOf);
    for (const one of alone) (await render(photo, [one])).map(valueOf);
    expect(made.map(({ frame }) => frame.width)).toEqual([600, 3_000, 1_024, 700, 1_024, 300]);
    for (const [index, px] of sizes.entries()) {
      const [some, other] = await Promise.all([
        pixelsOf(together[index].temporaryPath),
        pixelsOf(alone[index].temporaryPath),
      ]);
      const difference = meanDifference(some.data, other.data);
      expect(difference).toBeLessThanOrEqual(px === null ? 0 : 0.7);
    }
  });

  it('have each their own mark, in the same size too', async () => {
    const [left, right] = ['top-left', 'bottom-right'].map((anchor) =>
      output(png(800), { anchor, opacity: 1 }),
    );
    (await render(photo, [left, right])).forEach(valueOf);
    const at = async (path: string, [x, y]: readonly number[]) => {
      const { data, width } = await pixelsOf(path);
      return [...data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3)];
    };
    const red = [0xd0, 0x10, 0x30];
    const [high, low] = [
      [60, 40],
      [740, 493],
    ];
    expect(await at(left.temporaryPath, high)).toEqual(red);
    expect(await at(left.temporaryPath, low)).not.toEqual(red);
    expect(await at(right.temporaryPath, low)).toEqual(red);
    expect(await at(right.temporaryPath, high)).not.toEqual(red);
  });

  it('do not stand in for each other: one that cannot be written leaves the rest', async () => {
    const nowhere = output(png(500), {}, join(folder, 'not there', 'output'));
    const made = await render(photo, [output(png(null)), nowhere, output(png(300))]);
    expect(made.map(({ ok }) => ok)).toEqual([true, false, true]);
  });

  describe('on a disk that is slow for one of them', () => {
    /** Takes nothing until somebody reads from it. */
    const slowOutput = (name: string): OutputJob => {
      const path = join(folder, name);
      execFileSync('mkfifo', [path]);
      return output(png(null), {}, path);
    };
    const settledOf = (rendering: Promise<unknown>) => {
      const state = { isSettled: false };
      const settle = () => void (state.isSettled = true);
      rendering.then(settle, settle);
      return state;
    };

    it('do not wait for it, but their photo does', async () => {
      const slow = slowOutput('slow');
      const others = [output(png(700)), output(png(300))];
      const rendering = render(photo, [slow, ...others]);
      const state = settledOf(rendering);
      for (const { temporaryPath } of others) {
        await eventually(async () => expect(await sharp(temporaryPath).stats()).toBeDefined());
      }
      expect(state.isSettled).toBe(false);
      expect((await readFile(slow.temporaryPath)).length).toBeGreaterThan(10_000);
      // What it was written to cannot be flushed.
      expect(await rendering).toMatchObject([{ ok: false }, { ok: true }, { ok: true }]);
    });

    it('end only when nothing is written any more, whatever becomes of the others', async () => {
      const slow = slowOutput('slow for long');
      const small = output(png(300));
      const noMark = { ...small, marks: [{ ...small.marks[0], mark: 7 }] };
      const rendering = render(photo, [slow, noMark]);
      const state = settledOf(rendering);
      await setTimeout(1_000);
      expect(state.isSettled).toBe(false);
      await readFile(slow.temporaryPath);
      await expect(rendering).rejects.toThrow();
      expect(existsSync(slow.temporaryPath)).toBe(false);
    });
  });

  it('have no mark where their delivery says so, whatever the others have', async () => {
    const [bare, marked] = [false, true].map((has) => output(png(null, { mark: has })));
    const [without, having] = (await render(photo, [bare, marked])).map(valueOf);
    expect(without).toMatchObject({ marks: [] });
    expect(having.marks[0]?.placement.copies).toHaveLength(1);
    const [plain, found] = await Promise.all([pixelsOf(photo), pixelsOf(bare.temporaryPath)]);
    expect(found.data.equals(plain.data)).toBe(true);
  });

  it('fail together where the photo does', async () => {
    const broken = join(folder, 'broken.jpg');
    writeFileSync(broken, 'not a photo');
    const made = await render(broken, [output(png(null)), output(png(300))]);
    expect(made).toMatchObject([{ ok: false }, { ok: false }]);
  });
});

describe('a photo of 16 bits', () => {
  const [width, height] = [400, 300];
  let photo: string;
  const samples = new Uint16Array(width * height * 3);
  beforeAll(async () => {
    photo = join(folder, 'deep.png');
    for (let at = 0; at < samples.length; at++) samples[at] = 20_000 + (at % 7_919);
    const raw = { width, height, channels: 3 } as const;
    await sharp(samples, { raw }).toColourspace('rgb16').png().toFile(photo);
  });

  async function deepPixelsOf(path: string): Promise<Uint16Array> {
    // The library would take words with a profile to a wider space.
    const { buffer, byteOffset, byteLength } = await sharp(path, { ignoreIcc: true })
      .pipelineColourspace('rgb16')
      .toColourspace('rgb16')
      .removeAlpha()
      .raw({ depth: 'ushort' })
      .toBuffer();
    return new Uint16Array(buffer, byteOffset, byteLength / 2);
  }

  it.each(['png', 'tiff'])('keeps them in %s, every sample beside the mark', async (type) => {
    const deep = output({ resize: null, file: { type } }, { anchor: 'top', opacity: 0.5 });
    const [made] = (await render(photo, [deep])).map(valueOf);
    expect((await sharp(deep.temporaryPath).metadata()).depth).toBe('ushort');
    const found = await deepPixelsOf(deep.temporaryPath);
    const box = made.marks[0]?.placement.copies[0].box ?? { x: 0, y: 0, width: 0, height: 0 };
    let beside = 0;
    for (let y = 0; y < height; y++) {
      const isBeside = y < box.y - 2 || y > box.y + box.height + 2;
      for (let x = 0; isBeside && x < width * 3; x++) {
        if (found[y * width * 3 + x] !== samples[y * width * 3 + x]) beside++;
      }
    }
    expect(beside).toBe(0);
    const [x, y] = [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)];
    const at = (y * width + x) * 3;
    const mark = [0xd0, 0x10, 0x30].map((level) => level * 257);
    for (let c = 0; c < 3; c++) {
      expect(Math.abs(found[at + c] - (samples[at + c] + mark[c]) / 2)).toBeLessThanOrEqual(1);
    }
  });

  it('goes out in 8 bits beside that, and smaller in 16', async () => {
    const [jpeg, small] = [output({ resize: null }), output(png(200))];
    (await render(photo, [jpeg, small])).forEach(valueOf);
    expect((await sharp(jpeg.temporaryPath).metadata()).depth).toBe('uchar');
    expect(await sharp(small.temporaryPath).metadata()).toMatchObject({
      ...{ depth: 'ushort', width: 200, height: 150 },
    });
  });

  it('has the colours of its profile, as one of 8 bits has', async () => {
    const levels = [200, 80, 60];
    const plain = <T extends Uint8Array | Uint16Array>(
      Kind: new (length: number) => T,
      by: number,
    ) => new Kind(60 * 40 * 3).map((_, at) => levels[at % 3] * by) as T;
    const paths = [join(folder, 'wide 16.png'), join(folder, 'wide 8.png')];
    writeFileSync(paths[0], await wideGamut(plain(Uint16Array, 257), 60));
    writeFileSync(paths[1], await wideGamut(plain(Uint8Array, 1), 60));
    const outputs = paths.map(() => output(png(null), { opacity: 0.05 }));
    for (const [index, path] of paths.entries()) {
      (await render(path, [outputs[index]])).forEach(valueOf);
    }
    const [deep, flat] = outputs.map(({ temporaryPath }) => temporaryPath);
    const some = (await deepPixelsOf(deep)).slice(0, 3);
    const other = (await pixelsOf(flat)).data.subarray(0, 3);
    // 200, 80, 60 of Display P3 by the matrices of both spaces.
    for (const [c, level] of [216, 69, 51].entries()) {
      expect(Math.abs(some[c] / 257 - level)).toBeLessThanOrEqual(1);
      expect(Math.abs(other[c] - level)).toBeLessThanOrEqual(1);
    }
  });
});

describe('a photo with transparency', () => {
  it('is laid on white for a JPEG, and keeps it in a PNG of the same run', async () => {
    const photo = join(folder, 'clear.png');
    await scene({ width: 300, height: 200 }).ensureAlpha(0).png().toFile(photo);
    const [jpeg, clear] = [output({ resize: null }), output(png(null))];
    (await render(photo, [jpeg, clear])).forEach(valueOf);
    const corner = (await pixelsOf(jpeg.temporaryPath)).data.subarray(0, 3);
    expect(Math.min(...corner)).toBeGreaterThan(250);
    const { data } = await sharp(clear.temporaryPath).raw().toBuffer({ resolveWithObject: true });
    expect(data[3]).toBe(0);
  });
});

describe('a limit of bytes', () => {
  it.each(['jpeg', 'webp'] as const)(
    'gives the best %s that fits, and says where none does',
    async (type) => {
      const photo = join(folder, 'limit.jpg');
      await scene({ width: 2_400, height: 1_600 }).jpeg({ quality: 95 }).toFile(photo);
      const limited = (maxBytes: number) =>
        output({ resize: null, file: { type, max_bytes: maxBytes } });
      const [roomy, tight] = [limited(400_000), limited(10_000)];
      const [fits, beyond] = (await render(photo, [roomy, tight])).map(valueOf);
      expect(fits.bytesAfter).toBeLessThanOrEqual(400_000);
      expect(fits.bytesAfter).toBeGreaterThan(300_000);
      expect(fits.note).toBeNull();
      expect(beyond.bytesAfter).toBeGreaterThan(10_000);
      expect(beyond.note).toMatch(
        /^At quality 30 it still has \d+ KB, more than the 10 KB asked for/,
      );
    },
  );
});

describe('sharpening', () => {
  /** How much neighbouring pixels differ, on average: what sharpening raises. */
  async function acutance(path: string): Promise<number> {
    const { data } = await pixelsOf(path);
    let sum = 0;
    for (let at = 3; at < data.length; at++) sum += Math.abs(data[at] - data[at - 3]);
    return sum / data.length;
  }
  const away = { size: { basis: 'pixels', value: 8 }, opacity: 0.05 };

  it('is stronger by strength, and only of photos that become smaller', async () => {
    const photo = join(folder, 'soft.jpg');
    await scene({ width: 1_600, height: 1_000 }).jpeg({ quality: 95 }).toFile(photo);
    const strengths = ['none', 'low', 'standard', 'high'];
    const smaller = strengths.map((sharpen) => output(png(600, { sharpen }), away));
    const [plain, same] = ['none', 'high'].map((sharpen) => output(png(null, { sharpen }), away));
    (await render(photo, [...smaller, plain, same])).forEach(valueOf);
    const found = await Promise.all(smaller.map(({ temporaryPath }) => acutance(temporaryPath)));
    expect(found).toEqual(found.toSorted((a, b) => a - b));
    expect(found[1] / found[0]).toBeGreaterThan(1.05);
    expect(found[3] / found[0]).toBeLessThan(1.9);
    expect(await acutance(same.temporaryPath)).toBe(await acutance(plain.temporaryPath));
  });

  it('leaves transparency and 16 bits as they are', async () => {
    const photo = join(folder, 'glass.png');
    const raw = { width: 200, height: 100, channels: 4 } as const;
    const samples = Uint16Array.from({ length: 200 * 100 * 4 }, (_, at) => (at * 7_919) % 65_536);
    await sharp(samples, { raw }).toColourspace('rgb16').png().toFile(photo);
    const [plain, crisp] = ['none', 'high'].map((sharpen) => output(png(100, { sharpen }), away));
    (await render(photo, [plain, crisp])).forEach(valueOf);
    const alphaOf = ({ temporaryPath }: OutputJob) =>
      sharp(temporaryPath, { ignoreIcc: true })
        .extractChannel(3)
        .raw({ depth: 'ushort' })
        .toBuffer();
    // Where the mark lies both are alike, since its coverage is.
    expect((await alphaOf(crisp)).equals(await alphaOf(plain))).toBe(true);
    expect((await sharp(crisp.temporaryPath).metadata()).depth).toBe('ushort');
  });
});

describe('the resolution tag', () => {
  it.each(['jpeg', 'png', 'tiff', 'webp'])('is as asked for in %s, in EXIF too', async (type) => {
    const photo = join(folder, 'tag.jpg');
    await scene({ width: 300, height: 200 })
      .withMetadata({ density: 72 })
      .withExifMerge({ IFD0: { Artist: 'Ines Marlow' } })
      .jpeg()
      .toFile(photo);
    const [asked, left] = [300, null].map((dpi) => output({ resize: null, file: { type }, dpi }));
    (await render(photo, [asked, left])).forEach(valueOf);
    for (const [{ temporaryPath }, ppi] of [
      [asked, 300],
      [left, 72],
    ] as const) {
      const { density, exif } = await sharp(temporaryPath).metadata();
      if (type !== 'webp') expect(Math.round(density ?? 0)).toBe(ppi);
      const found = exif && (await exifr.parse(withoutPreamble(exif), ['XResolution']));
      if (found?.XResolution) expect(Math.round(found.XResolution)).toBe(ppi);
    }
  });
});
