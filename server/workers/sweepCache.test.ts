import { mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { sweepCache } from './sweepCache.ts';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'light-crest-cache-'))));
afterEach(() => rmSync(folder, { recursive: true }));

const put = (name: string, daysAgo: number): void => {
  writeFileSync(join(folder, name), name);
  const then = new Date(Date.now() - daysAgo * 86_400_000);
  utimesSync(join(folder, name), then, then);
};

it('takes away what has long not been used, and never what is not its own', async () => {
  const hash = 'a1'.repeat(32);
  put(`${hash}.svg`, 40);
  put(`${hash}.png`, 20);
  put(`${hash}.0123456789ab.jpg`, 31);
  put('0123456789abcdef.jpg', 31);
  put('holiday.jpg', 400);
  await sweepCache([folder, join(folder, 'none')]);
  expect(readdirSync(folder).sort()).toEqual([`${hash}.png`, 'holiday.jpg'].sort());
});
