import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import type { OpenedPhoto } from './openedPhoto.ts';
import { storeAndRead } from './renderOutput.ts';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'output-'))));
afterEach(() => rmSync(folder, { recursive: true }));

const PHOTO = { job: {} } as OpenedPhoto;

it('says what kept an output from being compared, and leaves nothing of it', async () => {
  const temporaryPath = join(folder, 'a.part');
  const deliveryRule = deliveryRuleSchema.parse({ dates: 'now' });
  const output = { marks: [], deliveryRule, temporaryPath };
  const moved = () => Promise.reject(new Error('the photo was moved'));
  const stored = storeAndRead([Buffer.from('bytes')], output, PHOTO, moved);
  await expect(stored).rejects.toThrow('the photo was moved');
  expect(existsSync(temporaryPath)).toBe(false);
});
