import { mkdtempSync, rmSync } from 'node:fs';
import * as fs from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, vi } from 'vitest';
import { flushFolder } from './flushFolder.ts';

vi.mock('node:fs/promises', { spy: true });

it('is shared by all who ask while one waits, and each is flushed after it asked', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-flush-'));
  const opened = () => vi.mocked(fs.open).mock.calls.length;
  const first = flushFolder(folder);
  await Promise.resolve();
  await vi.waitFor(() => expect(opened()).toBe(1));
  // These came when the first had begun: what they named may not be in it.
  await Promise.all([first, ...Array.from({ length: 20 }, () => flushFolder(folder))]);
  expect(opened()).toBe(2);
  await flushFolder(folder);
  expect(opened()).toBe(3);
  await flushFolder(join(folder, 'none'));
  rmSync(folder, { recursive: true });
});
