import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { blockPatches } from '#core/delivery/blockPatches';
import type { Box } from '#core/placement/geometry';
import { jpegLibrary } from '../jpeg/jpegLibrary.ts';
import { sharp } from '../sharp.ts';
import { blockOf, jpegFacts } from '../jpeg/jpegFacts.ts';
import { hasJpegTools, runTool } from './jpegTools.ts';
import { patchedByTools } from './patchedByTools.ts';
import { patchedInMemory } from './patchedInMemory.ts';
import type { Patching } from './patching.ts';
import type { JpegParts } from './untouchedSegments.ts';

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'patching-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const SIZE = { width: 603, height: 407 };

function drawn() {
  const data = new Uint8Array(SIZE.width * SIZE.height * 3);
  for (let at = 0; at < data.length; at++) data[at] = 128 + 100 * Math.sin(at / 41 + (at % 3));
  return sharp(data, { raw: { ...SIZE, channels: 3 } });
}

let photos = 0;
async function patchingOf(jpeg: Buffer, boxes: readonly Box[]): Promise<Patching> {
  const path = join(folder, `${++photos}.jpg`);
  writeFileSync(path, jpeg);
  const facts = jpegFacts(jpeg);
  if (!facts) throw new Error('expected a JPEG');
  return {
    ...{ jpeg, path, facts, spare: `${path}.part` },
    patches: blockPatches(boxes, facts.size, blockOf(facts)),
    marked: (cut) => ({ ...cut, data: cut.data.map((level) => 255 - level) }),
  };
}

const CORNER = { x: 430, y: 320, width: 173, height: 87 };
const MIDDLE = { x: 97, y: 33, width: 140, height: 61 };

const KINDS: readonly (readonly [string, () => Promise<Buffer>])[] = [
  ['of all colours', () => drawn().jpeg({ chromaSubsampling: '4:4:4' }).toBuffer()],
  ['of few colours', () => drawn().jpeg({ chromaSubsampling: '4:2:0', quality: 93 }).toBuffer()],
  ['progressive', () => drawn().jpeg({ progressive: true }).toBuffer()],
  ['of one channel', () => drawn().toColourspace('b-w').jpeg().toBuffer()],
  ['with colours halved across', () => encoded('-sample', '2x1')],
  ['with colours halved down', () => encoded('-sample', '1x2')],
  ['of red, green and blue', () => encoded('-rgb')],
  ['with the usual tables of codes', () => encoded('-baseline')],
  ['of one channel, with factors', () => encoded('-grayscale', '-sample', '2x2')],
  ['in which readers can start again', () => encoded('-restart', '1')],
  ['with few blocks from one restart to the next', () => encoded('-restart', '5B', '-optimize')],
];

async function encoded(...words: string[]): Promise<Buffer> {
  const head = Buffer.from(`P6\n${SIZE.width} ${SIZE.height}\n255\n`, 'latin1');
  return runTool('cjpeg', words, Buffer.concat([head, await drawn().raw().toBuffer()]));
}

const wholeOf = (parts: JpegParts | null): Buffer | null =>
  parts && Buffer.concat([parts.head, ...parts.picture]);

/** Its coefficients as they are, and nothing else of it. */
const withUsualCodes = (jpeg: Buffer | null): Promise<Buffer> =>
  runTool('jpegtran', ['-copy', 'none'], jpeg ?? Buffer.alloc(0));

/** With nothing forgiven. */
async function samplesOf(jpeg: Buffer | null): Promise<Buffer> {
  expect(jpeg).not.toBeNull();
  return sharp(jpeg ?? Buffer.alloc(0), { failOn: 'warning' })
    .raw()
    .toBuffer();
}

describe.skipIf(!jpegLibrary() || !hasJpegTools())('blocks replaced in memory', () => {
  test.each(KINDS)('are those that the programs put in, in a JPEG %s', async (_, jpegOf) => {
    const jpeg = await jpegOf();
    for (const boxes of [[CORNER], [MIDDLE, CORNER], [{ x: 0, y: 0, ...SIZE }]]) {
      const patching = await patchingOf(jpeg, boxes);
      const made = wholeOf(await patchedInMemory(patching));
      const asked = await patchedByTools(patching);
      // The programs write the usual codes, not the file's own: by those, both are the same to the byte.
      expect((await withUsualCodes(made)).equals(await withUsualCodes(asked))).toBe(true);
      expect((await samplesOf(made)).equals(await samplesOf(asked))).toBe(true);
      expect((await samplesOf(made)).equals(await samplesOf(jpeg))).toBe(false);
    }
  });

  it('are left to the programs where anything is wrong, or they alone can put it in', async () => {
    const plain = await drawn().jpeg().toBuffer();
    const short = plain.subarray(0, plain.length / 2);
    expect(await patchedInMemory(await patchingOf(short, [CORNER]))).toBeNull();
    const path = join(folder, 'progressive.jpg');
    writeFileSync(path, await drawn().jpeg({ progressive: true }).toBuffer());
    const restarting = await runTool('jpegtran', ['-progressive', '-restart', '4', path]);
    expect(await patchedInMemory(await patchingOf(restarting, [CORNER]))).toBeNull();
  });

  it('fail with what went wrong while they were made anew, and the next photo goes well', async () => {
    const jpeg = await drawn().jpeg().toBuffer();
    const patching = await patchingOf(jpeg, [MIDDLE, CORNER]);
    const failing = {
      ...patching,
      marked: () => {
        throw new Error('no such mark');
      },
    };
    await expect(patchedInMemory(failing)).rejects.toThrow('no such mark');
    const made = await withUsualCodes(wholeOf(await patchedInMemory(patching)));
    expect(made.equals(await withUsualCodes(await patchedByTools(patching)))).toBe(true);
  });
});

it('headers that end too early are those of no JPEG', () => {
  const start = Buffer.from([0xff, 0xd8]);
  for (const length of [2, 3, 7, 8, 9]) {
    const frame = Buffer.alloc(2 + length, 3);
    frame.set([0xff, 0xc0, 0, length]);
    expect(jpegFacts(Buffer.concat([start, frame]))).toBeNull();
  }
});
