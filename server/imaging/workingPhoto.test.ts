import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it, test } from 'vitest';
import type { Canvas } from '#core/pixels';
import { sharp } from './sharp.ts';
import { proxyCopies, workingCopies } from './workingPhoto.ts';

/** A ground of waves in all directions, so that any shift shows. */
function waves(width: number, height: number): Canvas {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      const wave = Math.sin(x / 9) + Math.sin(y / 7) + Math.sin((x + y) / 13);
      data.fill(128 + 40 * wave, at, at + 3);
    }
  }
  return { data, width, height, channels: 3, depth: 8, space: 'srgb' };
}

test.each([
  { width: 2_048, height: 1_365 },
  { width: 3_001, height: 2_001 },
  { width: 2_731, height: 4_096 },
])('a part of $width × $height px made smaller lies as in the whole', async (size) => {
  const canvas = waves(size.width, size.height);
  const whole = await workingCopies(canvas)(null);
  const { width, height } = whole.size;
  for (const seen of [
    { x: width - 321, y: height - 101, width: 280, height: 83 },
    { x: 17, y: 0, width: 300, height: 70 },
  ]) {
    const part = await workingCopies(canvas)(seen);
    expect(part.size).toEqual(whole.size);
    expect(part.pixels.width * part.pixels.height).toBeLessThan((width * height) / 4);
    let most = 0;
    for (let y = seen.y; y < seen.y + seen.height; y++) {
      for (let x = seen.x; x < seen.x + seen.width; x++) {
        const inWhole = whole.pixels.data[(y * width + x) * 3];
        const inPart = part.pixels.data[((y - part.top) * part.pixels.width + x - part.left) * 3];
        most = Math.max(most, Math.abs(inWhole - inPart));
      }
    }
    expect(most).toBeLessThanOrEqual(3);
  }
});

test('what is looked at almost everywhere is made smaller once', async () => {
  const copies = workingCopies(waves(2_048, 1_365));
  const large = { x: 0, y: 0, width: 1_200, height: 700 };
  const first = await copies(large);
  expect(first.pixels.width).toBe(1_200);
  expect(await copies(large)).toBe(first);
  expect(await copies({ x: 0, y: 0, width: 10, height: 10 })).toBe(first);
});

describe('a proxy', () => {
  const folder = mkdtempSync(join(tmpdir(), 'proxy-'));
  const path = join(folder, 'proxy.jpg');
  const size = { width: 1_200, height: 800 };

  it('is decoded once for each size, as the imaging library decodes it', async () => {
    const { data } = waves(size.width, size.height);
    await sharp(data, { raw: { ...size, channels: 3 } })
      .jpeg({ quality: 90 })
      .toFile(path);
    const copies = proxyCopies({ path, ...size });
    const own = await copies({ width: 6_000, height: 4_000 });
    const smaller = await copies({ width: 600, height: 400 });
    expect(Buffer.from(own.pixels.data).equals(await sharp(path).raw().toBuffer())).toBe(true);
    expect(own).toMatchObject({ size, left: 0, top: 0 });
    expect(smaller.size).toEqual({ width: 600, height: 400 });
    // It may be taken away while marks are judged by it.
    rmSync(folder, { recursive: true });
    expect(await copies({ width: 3_000, height: 2_000 })).toBe(own);
    expect(await copies({ width: 600, height: 400 })).toBe(smaller);
  });

  it('that is away is told to whoever asks', async () => {
    const copies = proxyCopies({ path: join(folder, 'away.jpg'), ...size });
    await expect(copies(size)).rejects.toThrow();
    await expect(copies(size)).rejects.toThrow();
  });
});
