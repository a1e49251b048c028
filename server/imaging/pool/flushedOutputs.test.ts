import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { failure, success } from '#core/result';
import type { RenderedOutput, RenderJob } from '../pass/renderJob.ts';
import { flushedOutputs } from './flushedOutputs.ts';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'flushed-'))));
afterEach(() => rmSync(folder, { recursive: true }));

const MADE = success({ frame: { width: 3, height: 2 } } as RenderedOutput);

const jobFor = (...names: string[]): RenderJob =>
  ({
    outputs: names.map((name) => ({ temporaryPath: join(folder, name) })),
  }) as unknown as RenderJob;

it('leaves what was made, and what was not, as it is told', async () => {
  writeFileSync(join(folder, 'a.part'), 'bytes');
  const failed = failure('It is damaged.');
  expect(await flushedOutputs(jobFor('a.part', 'b.part'), [MADE, failed])).toEqual([MADE, failed]);
  expect(existsSync(join(folder, 'a.part'))).toBe(true);
});

it('fails what the disk does not keep, and nothing else', async () => {
  writeFileSync(join(folder, 'a.part'), 'bytes');
  mkdirSync(join(folder, 'b.part'));
  const job = jobFor('away.part', 'a.part', 'b.part');
  const [away, kept, folderInstead] = await flushedOutputs(job, [MADE, MADE, MADE]);
  expect(away).toEqual(failure(expect.stringMatching(/\.$/) as unknown as string));
  expect(kept).toBe(MADE);
  expect(folderInstead.ok).toBe(false);
});
