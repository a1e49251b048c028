import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import type { Request } from 'express';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { receiveUpload } from './receiveUpload.ts';

let folder: string;
let path: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-receive-'));
  path = join(folder, 'upload');
});
afterEach(() => rmSync(folder, { recursive: true }));

function request(parts: Iterable<string>, headers: Record<string, string> = {}): Request {
  const body = Readable.from(parts, { objectMode: false });
  return Object.assign(body, { headers, complete: false }) as unknown as Request;
}

function* broken(): Generator<string> {
  yield 'half';
  throw new Error('aborted');
}

describe('receiveUpload', () => {
  it('writes the body as it came', async () => {
    expect(await receiveUpload(request(['one ', 'two']), path)).toBe(
      createHash('sha256').update('one two').digest('hex'),
    );
    expect(readFileSync(path, 'utf8')).toBe('one two');
  });

  it('refuses what says it is too large without reading it', async () => {
    const large = request(['x'], { 'content-length': '2000001' });
    await expect(receiveUpload(large, path, 2_000_000)).rejects.toThrow('at most 2 MB');
    expect(existsSync(path)).toBe(false);
  });

  it('refuses what turns out too large, and leaves nothing', async () => {
    const large = request(['123', '456'], { 'content-length': '3' });
    await expect(receiveUpload(large, path, 5)).rejects.toThrow('at most');
    expect(existsSync(path)).toBe(false);
  });

  it('takes a cancelled upload for one, and leaves nothing', async () => {
    expect(await receiveUpload(request(broken()), path)).toBe(null);
    expect(existsSync(path)).toBe(false);
  });

  it('says where it could not be written', async () => {
    const nowhere = join(folder, 'missing', 'upload');
    const whole = Object.assign(request(['x']), { complete: true });
    await expect(receiveUpload(whole, nowhere)).rejects.toThrow('is not there any more');
  });
});

it('leaves nothing of a line that breaks at once, not even a moment later', async () => {
  const paths = Array.from({ length: 40 }, (_, index) => join(folder, `upload-${index}`));
  await Promise.all(
    paths.map(async (at) => {
      const request = new PassThrough();
      const receiving = receiveUpload(
        Object.assign(request, { headers: {}, complete: false }) as never,
        at,
      );
      request.write('half');
      request.destroy(new Error('aborted'));
      expect(await receiving).toBe(null);
    }),
  );
  await new Promise((done) => setTimeout(done, 50));
  expect(paths.filter((at) => existsSync(at))).toEqual([]);
});
