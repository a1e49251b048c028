import { existsSync } from 'node:fs';
import { rename, rm, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { ScanView } from '#core/contract/http';
import { success, type Result } from '#core/result';
import type { ScanRow } from './db/scans.ts';
import type { Tables } from './db/tables.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** Files that a browser shows by itself, upright and in the right colours. */
const SHOWN_AS_THEY_ARE: ReadonlySet<string> = new Set(['jpeg', 'png', 'webp']);

const ENDINGS: Record<string, string> = {
  ...{ jpeg: '.jpg', png: '.png', webp: '.webp', tiff: '.tif' },
  ...{ avif: '.avif', heic: '.heic', pdf: '.pdf' },
};

/** Scans that no mark was kept from are let go after this many days. */
const UNUSED_DAYS = 30;
const MS_PER_DAY = 86_400_000;

/** Sheets of paper, and PDFs, as they were brought in. The files are never changed. */
export class Scans {
  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly imaging: Imaging,
  ) {}

  view({ id, name, format, pages }: ScanRow): ScanView {
    return { id, name, format, pages };
  }

  /** Takes in a file that was streamed to `incoming`; it is moved, or removed if it is none. */
  async add(incoming: string, name: string): Promise<Result<number>> {
    const known = await this.imaging.recogniseScan(incoming, name);
    if (!known.ok) {
      await rm(incoming, { force: true });
      return known;
    }
    const ending = ENDINGS[known.value.format] ?? extname(name);
    const id = this.tables.scans.insert({ name, ending, ...known.value });
    await rename(incoming, this.paths.scan(id, ending));
    return success(id);
  }

  file(scan: ScanRow): string {
    return this.paths.scan(scan.id, scan.ending);
  }

  /** The file whose pixels are lifted: the scan itself, or the page of a PDF drawn once. */
  async pixelsFile(scan: ScanRow, page: number): Promise<Result<string>> {
    return scan.format === 'pdf' ? this.pageFile(scan, page) : success(this.file(scan));
  }

  /** A file that a browser can show. */
  async pictureFile(scan: ScanRow, page: number): Promise<Result<string>> {
    if (SHOWN_AS_THEY_ARE.has(scan.format)) return success(this.file(scan));
    return this.pageFile(scan, scan.format === 'pdf' ? page : 1);
  }

  private async pageFile(scan: ScanRow, page: number): Promise<Result<string>> {
    const target = this.paths.scanPicture(scan.id, page);
    if (existsSync(target)) return success(target);
    const wish = { longSidePx: null, onPaper: true };
    const picture = await this.imaging.scanPage(this.file(scan), page, wish);
    return picture.ok ? this.stored(target, picture.value) : picture;
  }

  /** A small picture of a page, to choose by. */
  async thumbnail(scan: ScanRow, page: number, longSidePx: number): Promise<Result<Buffer>> {
    const wish = { longSidePx, onPaper: true };
    const picture = await this.imaging.scanPage(this.file(scan), page, wish);
    return picture.ok ? success(Buffer.from(picture.value)) : picture;
  }

  private async stored(target: string, bytes: Uint8Array): Promise<Result<string>> {
    // Written elsewhere and renamed: no half picture under the name, and two requests do not meet.
    const beside = this.paths.freshIncoming('scan-page');
    await writeFile(beside, bytes);
    await rename(beside, target);
    return success(target);
  }

  /** Removes scans that no mark was kept from and that nobody came back to. */
  async tidy(now = new Date()): Promise<void> {
    const limit = new Date(now.getTime() - UNUSED_DAYS * MS_PER_DAY);
    for (const scan of this.tables.scans.olderThan(limit)) {
      if (!this.tables.marks.isScanUsed(scan.id)) await this.remove(scan);
    }
  }

  private async remove(scan: ScanRow): Promise<void> {
    this.tables.scans.remove(scan.id);
    await rm(this.file(scan), { force: true });
    for (let page = 1; page <= scan.pages; page++) {
      await rm(this.paths.scanPicture(scan.id, page), { force: true });
    }
  }
}
