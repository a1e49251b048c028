import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { storageSentence } from '../storage/storageErrors.ts';
import { storageFull, unusable } from './errors.ts';

const BYTES_PER_MB = 1_000_000;

/**
 * Streams the plain body of a request into a file; on failure nothing is left of it.
 *
 * @param mostBytes refused beyond this, whatever the request says of its length
 * @returns SHA-256 of what came, hexadecimal; null where the page cancelled the upload: then nobody is
 *   there to be answered
 */
export async function receiveUpload(
  request: Request,
  path: string,
  mostBytes = Infinity,
): Promise<string | null> {
  const tooLarge = unusable(`Expected a file of at most ${mostBytes / BYTES_PER_MB} MB.`);
  // Said before a byte is read, the answer reaches the page; later the connection is broken off.
  if (Number(request.headers['content-length'] ?? 0) > mostBytes) throw tooLarge;
  let bytes = 0;
  const hash = createHash('sha256');
  const counted = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.byteLength;
      hash.update(part);
      if (bytes <= mostBytes) done(null, part);
      else done(tooLarge);
    },
  });
  try {
    await pipeline(request, counted, createWriteStream(path));
    return hash.digest('hex');
  } catch (error) {
    await rm(path, { force: true });
    if (bytes > mostBytes) throw error;
    if (request.destroyed && !request.complete) return null;
    throw storageFull(storageSentence(path, error));
  }
}
