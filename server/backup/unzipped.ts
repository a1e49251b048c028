import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { crc32 } from 'node:zlib';
import { openPromise, type Entry, type ZipFile } from 'yauzl';

/** Reads a ZIP from outside: sizes and checksums are compared, and nothing lands beside its folder. */
export class Unzipped {
  private constructor(private readonly zip: ZipFile) {}

  /** @throws where the file is no ZIP, or cannot be read */
  static async open(path: string): Promise<Unzipped> {
    // Names with `..`, of other disks or with backslashes are refused while it is read.
    return new Unzipped(await openPromise(path, { lazyEntries: true, autoClose: false }));
  }

  /** Each file in it; folders are none. */
  async *entries(): AsyncGenerator<Entry> {
    for await (const entry of this.zip.eachEntry()) if (!entry.fileName.endsWith('/')) yield entry;
  }

  /** @param most bytes; more is refused */
  async bytes(entry: Entry, most: number): Promise<Buffer> {
    if (entry.uncompressedSize > most) {
      throw new Error(`${entry.fileName} is larger than ${most} bytes`);
    }
    const parts: Buffer[] = [];
    for await (const part of (await this.stream(entry)) as AsyncIterable<Buffer>) parts.push(part);
    return Buffer.concat(parts);
  }

  /** Writes a file into a folder, under its name in the ZIP. */
  async extract(entry: Entry, folder: string): Promise<void> {
    const path = join(folder, entry.fileName);
    await mkdir(dirname(path), { recursive: true });
    await pipeline(await this.stream(entry), createWriteStream(path, { flags: 'wx', flush: true }));
  }

  close(): void {
    this.zip.close();
  }

  private async stream(entry: Entry): Promise<Transform> {
    const source = await this.zip.openReadStreamPromise(entry);
    let sum = 0;
    const checked = new Transform({
      transform(part: Buffer, _, done) {
        sum = crc32(part, sum);
        done(null, part);
      },
      flush(done) {
        done(sum === entry.crc32 ? null : new Error(`${entry.fileName} is damaged`));
      },
    });
    source.on('error', (error) => checked.destroy(error));
    checked.on('close', () => source.destroy());
    return source.pipe(checked);
  }
}
