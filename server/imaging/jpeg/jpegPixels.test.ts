import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { JpegOptions } from 'sharp';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { probePhoto } from '../photo/probe.ts';
import { sharp } from '../sharp.ts';
import { jpegLibrary } from './jpegLibrary.ts';
import { jpegPixels, shrinkFor } from './jpegPixels.ts';
import { giveRoomBack } from './sampleRoom.ts';

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'jpeg-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Colours that change within blocks, so that any other decoding shows. */
function ground({ width, height }: Size): Uint8Array {
  const data = new Uint8Array(width * height * 3);
  for (let at = 0, pixel = 0; at < data.length; at += 3, pixel++) {
    const [x, y] = [pixel % width, Math.floor(pixel / width)];
    data[at] = 128 + 90 * Math.sin(x / 5 + y / 11);
    data[at + 1] = 128 + 90 * Math.sin(x / 17 - y / 3);
    data[at + 2] = (x * 7 + y * 13) % 256;
  }
  return data;
}

const drawn = ({ width, height }: Size) =>
  sharp(ground({ width, height }), { raw: { width, height, channels: 3 } });

async function photoOf(size: Size, options: JpegOptions = {}, orientation = 1): Promise<string> {
  const path = join(
    folder,
    `${JSON.stringify([size, options, orientation]).replace(/\W/g, '')}.jpg`,
  );
  await drawn(size).withMetadata({ orientation }).jpeg(options).toFile(path);
  return path;
}

async function quickPixels(path: string, frame: Size | null = null): Promise<Pixels | null> {
  const probed = await probePhoto(path);
  if (!probed.ok) throw new Error(probed.reason);
  return jpegPixels(path, probed.value, { frame });
}

async function plainPixels(path: string, frame: Size | null = null): Promise<Uint8Array> {
  const upright = sharp(path, { ignoreIcc: true }).autoOrient();
  const sized = frame ? upright.resize(frame.width, frame.height, { fit: 'fill' }) : upright;
  return sized.raw().toBuffer();
}

function mostApart(some: ArrayLike<number>, other: ArrayLike<number>): number {
  expect(some.length).toBe(other.length);
  let most = 0;
  for (let at = 0; at < some.length; at++) most = Math.max(most, Math.abs(some[at] - other[at]));
  return most;
}

const ODD = { width: 643, height: 421 };

/** Its tests say nothing where the system has no such library; all else holds without it. */
describe.skipIf(!jpegLibrary())('the JPEG library of the system', () => {
  test.each<[string, JpegOptions]>([
    ['of few colours', { chromaSubsampling: '4:2:0' }],
    ['of all colours', { chromaSubsampling: '4:4:4', quality: 97 }],
    ['progressive', { progressive: true }],
  ])('decodes a photo %s to the very samples of the imaging library', async (_, options) => {
    const path = await photoOf(ODD, options);
    const pixels = await quickPixels(path);
    expect(pixels).toMatchObject({ ...ODD, channels: 3 });
    expect(mostApart(pixels?.data ?? [], await plainPixels(path))).toBe(0);
  });

  test.each([1, 3, 6, 8])('turns what is stored by orientation %i upright', async (orientation) => {
    const path = await photoOf(ODD, {}, orientation);
    const pixels = await quickPixels(path);
    expect(pixels?.width).toBe(orientation < 5 ? ODD.width : ODD.height);
    expect(mostApart(pixels?.data ?? [], await plainPixels(path))).toBe(0);
  });

  test.each([3, 5, 9, 17])('makes photos %i times smaller alike', async (times) => {
    const path = await photoOf({ width: 1_603, height: 1_201 }, {}, 6);
    const frame = { width: Math.round(1_201 / times), height: Math.round(1_603 / times) };
    const pixels = await quickPixels(path, frame);
    expect(pixels).toMatchObject(frame);
    expect(mostApart(pixels?.data ?? [], await plainPixels(path, frame))).toBe(0);
  });

  it('leaves to strips what its decoder does not make smaller', async () => {
    const path = await photoOf(ODD);
    expect(await quickPixels(path, { width: 400, height: 262 })).toBeNull();
    expect(await quickPixels(path, ODD)).toBeNull();
  });

  it('leaves mirrored, grey and CMYK photos to the imaging library', async () => {
    expect(await quickPixels(await photoOf(ODD, {}, 5))).toBeNull();
    const grey = join(folder, 'grey.jpg');
    await drawn(ODD).toColourspace('b-w').jpeg().toFile(grey);
    expect(await quickPixels(grey)).toBeNull();
    const cmyk = join(folder, 'cmyk.jpg');
    await drawn(ODD).toColourspace('cmyk').jpeg().toFile(cmyk);
    expect(await quickPixels(cmyk)).toBeNull();
  });

  it('leaves photos with anything to remark on to the one that can say what it is', async () => {
    const path = await photoOf(ODD);
    const probed = await probePhoto(path);
    if (!probed.ok) throw new Error(probed.reason);
    const whole = await sharp(path).jpeg().toBuffer();
    const read = () => jpegPixels(path, probed.value, { frame: null });
    writeFileSync(path, whole.subarray(0, whole.length / 2));
    expect(await read()).toBeNull();
    writeFileSync(path, 'no photo any more');
    expect(await read()).toBeNull();
    // Replaced meanwhile by one of another size, for which there may be no room.
    writeFileSync(path, await drawn({ width: 900, height: 600 }).jpeg().toBuffer());
    expect(await read()).toBeNull();
    rmSync(path);
    expect(await read()).toBeNull();
  });

  it('decodes the next photo into room that was given back, and into no other', async () => {
    const path = await photoOf(ODD);
    const first = await quickPixels(path);
    const second = await quickPixels(path);
    if (!first || !second) throw new Error('expected both');
    expect(second.data.buffer).not.toBe(first.data.buffer);
    giveRoomBack(first.data);
    const third = await quickPixels(await photoOf({ width: 320, height: 200 }));
    expect(third?.data.buffer).toBe(first.data.buffer);
    expect(third?.data.length).toBe(320 * 200 * 3);
    expect(mostApart(second.data, await plainPixels(path))).toBe(0);
    const foreign = new Uint8ClampedArray(ODD.width * ODD.height * 3);
    giveRoomBack(foreign);
    expect((await quickPixels(path))?.data.buffer).not.toBe(foreign.buffer);
  });

  it('decodes many photos at once, each into its own room', async () => {
    const path = await photoOf(ODD);
    const expected = await plainPixels(path);
    const all = await Promise.all(Array.from({ length: 12 }, () => quickPixels(path)));
    for (const pixels of all) expect(mostApart(pixels?.data ?? [], expected)).toBe(0);
  });

  test.each(['4:4:4', '4:2:0'] as const)(
    'encodes %s as the imaging library does',
    async (chroma) => {
      const { width, height } = ODD;
      const data = new Uint8ClampedArray(ground(ODD));
      const quick = await jpegLibrary()?.encode({ data, width, height }, 88, chroma, 'usual');
      const options = { quality: 88, chromaSubsampling: chroma, optimiseCoding: false };
      const plain = await drawn(ODD).jpeg(options).toBuffer();
      const read = (jpeg: Uint8Array) => sharp(jpeg).raw().toBuffer();
      expect(mostApart(await read(quick ?? plain), await read(plain))).toBe(0);
      expect((await sharp(quick).metadata()).chromaSubsampling).toBe(chroma);
    },
  );

  it('encodes noise at the best quality, of which hardly a byte can be spared', async () => {
    const [width, height] = [256, 192];
    let seed = 1;
    const data = Uint8ClampedArray.from({ length: width * height * 3 }, () => {
      seed = (seed * 48_271) % 0x7fffffff;
      return seed % 256;
    });
    const jpeg = await jpegLibrary()?.encode({ data, width, height }, 100, '4:4:4', 'usual');
    expect(jpeg?.length).toBeGreaterThan(width * height);
    const read = await sharp(jpeg).raw().toBuffer();
    expect(mostApart(read, data)).toBeLessThan(8);
  });
});

it('never shrinks beyond the frame, nor within the decoder to its very size', () => {
  const size = { width: 6_000, height: 4_000 };
  const shrink = (width: number, left: 1 | 2 = 1) =>
    shrinkFor(size, { frame: { width, height: Math.round((width * 2) / 3) }, left });
  expect(shrinkFor(size, { frame: null })).toBe(1);
  expect([6_000, 3_001, 2_999, 2_048].map((width) => shrink(width))).toEqual([1, 1, 1, 1]);
  expect([2_000, 1_200, 1_000, 700, 600].map((width) => shrink(width))).toEqual([2, 4, 4, 4, 8]);
  expect([2_048, 1_200, 700, 300].map((width) => shrink(width, 2))).toEqual([1, 2, 4, 8]);
});
