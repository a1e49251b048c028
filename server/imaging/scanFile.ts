import { readFile } from 'node:fs/promises';
import { failure, success, type Result } from '#core/result';
import { isPdf } from './pdf/isPdf.ts';
import type { PageWish } from './pdf/pdf.ts';
import { decodePhoto } from './photo/decode.ts';
import { probePhoto } from './photo/probe.ts';
import { sharpOf } from './sharp.ts';

export interface RecognisedScan {
  readonly format: string;
  readonly pages: number;
  /** Upright, px; null for a PDF. */
  readonly width: number | null;
  readonly height: number | null;
}

/** What kind of scan a file is, and how many pages it has. */
export async function recognisedScan(path: string, name: string): Promise<Result<RecognisedScan>> {
  const bytes = await readFile(path);
  if (isPdf(bytes)) {
    const { pdfPages } = await import('./pdf/pdf.ts');
    const pages = await pdfPages(bytes);
    if (!pages.ok) return pages;
    return success({ format: 'pdf', pages: pages.value, width: null, height: null });
  }
  const probed = await probePhoto(path);
  if (probed.ok) return success({ format: probed.value.format, pages: 1, ...probed.value.size });
  return failure(
    `${name} is not a scan that can be read (JPEG, PNG, WebP, TIFF, HEIC or PDF), or it is damaged.`,
  );
}

/** A page as PNG, upright; a picture that is no PDF has one. */
export async function scanPage(
  path: string,
  page: number,
  wish: PageWish,
): Promise<Result<Uint8Array>> {
  const bytes = await readFile(path);
  if (isPdf(bytes)) {
    const { pdfPicture } = await import('./pdf/pdf.ts');
    return pdfPicture(bytes, page, wish);
  }
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const decoded = await decodePhoto(path, probed.value, { frame: null, flatten: true });
  if (!decoded.ok) return decoded;
  const { longSidePx } = wish;
  const pipeline = sharpOf(decoded.value);
  const sized =
    longSidePx === null
      ? pipeline
      : pipeline.resize({ width: longSidePx, height: longSidePx, fit: 'inside' });
  return success(await sized.png({ compressionLevel: 1 }).toBuffer());
}
