import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it, test } from 'vitest';
import { sharp } from '../sharp.ts';
import { decodePhoto } from './decode.ts';
import { probePhoto } from './probe.ts';
import { isSrgbProfile } from './srgbProfile.ts';

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'profile-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const SIZE = { width: 40, height: 30 };

/** A photo of reds, greens and blues that are far from grey. @param profile one that the imaging library knows */
async function photoIn(profile: string): Promise<string> {
  const data = new Uint8Array(SIZE.width * SIZE.height * 3);
  for (let at = 0; at < data.length; at++) data[at] = at % 3 === 0 ? 230 : (at * 7) % 120;
  const path = join(folder, `${profile}.jpg`);
  const drawn = sharp(data, { raw: { ...SIZE, channels: 3 } });
  await drawn.withIccProfile(profile).jpeg({ quality: 95 }).toFile(path);
  return path;
}

async function profileIn(profile: string): Promise<Uint8Array> {
  const { icc } = await sharp(await photoIn(profile)).metadata();
  if (!icc) throw new Error('expected a profile');
  return icc;
}

test.each([
  ['srgb', true],
  ['p3', false],
])('a profile is told by its numbers: %s', async (name, isSrgb) => {
  expect(await isSrgbProfile(await profileIn(name))).toBe(isSrgb);
});

it('takes a profile that cannot be read, or is one for printing, for another', async () => {
  expect(await isSrgbProfile(Buffer.from('no profile at all'))).toBe(false);
  const srgb = Buffer.from(await profileIn('srgb'));
  expect(await isSrgbProfile(srgb.subarray(0, srgb.length / 2))).toBe(false);
  expect(await isSrgbProfile(await profileIn('cmyk'))).toBe(false);
});

test.each(['srgb', 'p3'])('photos in %s are decoded to the colours they show', async (name) => {
  const path = await photoIn(name);
  const probed = await probePhoto(path);
  if (!probed.ok) throw new Error(probed.reason);
  const decoded = await decodePhoto(path, probed.value, { frame: null, flatten: true });
  if (!decoded.ok) throw new Error(decoded.reason);
  const converted = await sharp(path).toColourspace('srgb').raw().toBuffer();
  const most = Math.max(...converted.map((level, at) => Math.abs(level - decoded.value.data[at])));
  expect(most).toBeLessThanOrEqual(1);
});
