import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { probePhoto } from './probe.ts';
import { rawFileSentence } from './rawFile.ts';

it.each(['DSC_1.NEF', '/photos/a.cr3', 'x.dng'])('%s is said to be raw', (name) => {
  expect(rawFileSentence(name)).toMatch(/^[^/]+ is a raw file of a camera.*bring in the JPEG/);
});

it.each(['a.tif', 'raw.jpg', 'arw', 'a.arw.png'])('%s is not', (name) => {
  expect(rawFileSentence(name)).toBeNull();
});

it('is not taken for the small picture in it, and an empty file is said to be empty', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-raw-'));
  const raw = join(folder, 'preview.nef');
  await sharp({ create: { width: 9, height: 9, channels: 3, background: '#999' } })
    .tiff()
    .toFile(raw);
  const probed = await probePhoto(raw);
  expect(probed.ok ? '' : probed.reason).toContain('preview.nef is a raw file');
  const empty = join(folder, 'empty.jpg');
  writeFileSync(empty, '');
  const none = await probePhoto(empty);
  expect(none.ok ? '' : none.reason).toBe('empty.jpg is empty: it has no bytes at all.');
  rmSync(folder, { recursive: true });
});
