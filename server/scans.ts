import { existsSync } from 'node:fs';
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { ScanView } from '#core/contract/http';
import { failure, success, type Result } from '#core/result';
import type { ScanRow } from './db/scans.ts';
import type { Tables } from './db/tables.ts';
import { isPdf, pdfPages, pdfPicture } from './imaging/pdf/pdf.ts';
import { decodePhoto } from './imaging/photo/decode.ts';
import { probePhoto } from './imaging/photo/probe.ts';
import { sharp } from './imaging/sharp.ts';
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
  ) {}

  view({ id, name, format, pages }: ScanRow): ScanView {
    return { id, name, format, pages };
  }

  /** Takes in a file that was streamed to `incoming`; it is moved, or removed if it is none. */
  async add(incoming: string, name: string): Promise<Result<number>> {
    const known = await this.recognised(incoming, name);
    if (!known.ok) {
      await rm(incoming, { force: true });
      return known;
    }
    const ending = ENDINGS[known.value.format] ?? extname(name);
    const id = this.tables.scans.insert({ name, ending, ...known.value });
    await rename(incoming, this.paths.scan(id, ending));
    return success(id);
  }

  private async recognised(
    path: string,
    name: string,
  ): Promise<Result<{ format: string; pages: number }>> {
    const bytes = await readFile(path);
    if (isPdf(bytes)) {
      const pages = await pdfPages(bytes);
      return pages.ok ? success({ format: 'pdf', pages: pages.value }) : pages;
    }
    const probed = await probePhoto(path);
    if (probed.ok) return success({ format: probed.value.format, pages: 1 });
    return failure(
      `${name} is not a scan that can be read (JPEG, PNG, WebP, TIFF, HEIC or PDF), or it is damaged.`,
    );
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
    if (scan.format === 'pdf') return this.pageFile(scan, page);
    const target = this.paths.scanPicture(scan.id, 1);
    if (existsSync(target)) return success(target);
    const probed = await probePhoto(this.file(scan));
    if (!probed.ok) return probed;
    const decoded = await decodePhoto(this.file(scan), probed.value, {
      frame: null,
      flatten: true,
    });
    if (!decoded.ok) return decoded;
    const { data, width, height, channels } = decoded.value;
    const png = await sharp(data, { raw: { width, height, channels } })
      .png({ compressionLevel: 1 })
      .toBuffer();
    return this.stored(target, png);
  }

  private async pageFile(scan: ScanRow, page: number): Promise<Result<string>> {
    const target = this.paths.scanPicture(scan.id, page);
    if (existsSync(target)) return success(target);
    const bytes = await readFile(this.file(scan));
    const picture = await pdfPicture(bytes, page, { longSidePx: null, onPaper: true });
    return picture.ok ? this.stored(target, picture.value) : picture;
  }

  /** A small picture of a page, to choose by. */
  async thumbnail(scan: ScanRow, page: number, longSidePx: number): Promise<Result<Buffer>> {
    if (scan.format === 'pdf') {
      return pdfPicture(await readFile(this.file(scan)), page, { longSidePx, onPaper: true });
    }
    const file = await this.pictureFile(scan, page);
    if (!file.ok) return file;
    const within = { width: longSidePx, height: longSidePx, fit: 'inside' as const };
    return success(await sharp(file.value).autoOrient().resize(within).png().toBuffer());
  }

  private async stored(target: string, bytes: Uint8Array): Promise<Result<string>> {
    // Written beside and renamed, so that a killed server leaves no half picture under the name.
    const beside = `${target}.part`;
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
