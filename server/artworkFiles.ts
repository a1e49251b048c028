import { renameSync } from 'node:fs';
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { MarkRow } from './db/markRows.ts';
import type { NewArtwork } from './newArtwork.ts';
import type { DataPaths } from './storage/dataPaths.ts';

export interface WrittenFile {
  readonly kind: 'svg' | 'png';
  readonly path: string;
}

/** Artwork of marks as files: a version never changes once it is written. */
export class ArtworkFiles {
  constructor(private readonly paths: DataPaths) {}

  /** Its files, under names that go at the next start. */
  async write({ row, content, pixels }: NewArtwork): Promise<WrittenFile[]> {
    const stem = this.paths.freshIncoming('artwork');
    const files = [{ kind: row.kind, path: `${stem}.${row.kind}`, content }];
    if (pixels) files.push({ kind: 'png', path: `${stem}.pixels`, content: pixels });
    for (const file of files) await writeFile(file.path, file.content, { flush: true });
    return files;
  }

  /** At once, in the transaction that lists the version. */
  name(files: readonly WrittenFile[], id: number, version: number): void {
    for (const { kind, path } of files) renameSync(path, this.paths.artwork(id, version, kind));
  }

  async read({ id, version, kind, hasPixels }: MarkRow) {
    const content = await readFile(this.paths.artwork(id, version, kind));
    const pixels = hasPixels ? await readFile(this.paths.artwork(id, version, 'png')) : null;
    return { content, pixels };
  }

  async remove(markId: number, version: number): Promise<void> {
    for (const kind of ['svg', 'png'] as const) {
      await rm(this.paths.artwork(markId, version, kind), { force: true });
    }
  }

  /** Pictures of other versions than the present one. */
  async removePictures(markId: number, version: number): Promise<void> {
    const folder = this.paths.markPictures(markId);
    for (const name of await readdir(folder).catch(() => [])) {
      if (!name.startsWith(`${version}-`)) await rm(join(folder, name), { force: true });
    }
  }
}
