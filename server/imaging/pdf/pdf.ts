import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createCanvas } from '@napi-rs/canvas';
import {
  getDocument,
  OPS,
  type PDFDocumentProxy,
  type PDFPageProxy,
} from 'pdfjs-dist/legacy/build/pdf.mjs';
import { failure, success, type Result } from '#core/result';
import { messageOf } from '../imageErrors.ts';
import { MAX_PDF_LONG_SIDE_PX, MAX_PDF_PAGES } from '../limits.ts';

/** How a page is drawn. */
export interface PageWish {
  /** Null: as many pixels as a scanned page has, or enough for a drawn one. */
  readonly longSidePx: number | null;
  /** On white, or on nothing. */
  readonly onPaper: boolean;
}

const packageFolder = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

/** Reads PDFs; slow pages and crashes end the imaging process it belongs into. */
export function pdfPages(bytes: Uint8Array): Promise<Result<number>> {
  return reading(bytes, ({ numPages }) => Promise.resolve(numPages));
}

/** A page as PNG. @param page from 1 */
export function pdfPicture(
  bytes: Uint8Array,
  page: number,
  wish: PageWish,
): Promise<Result<Buffer>> {
  return reading(bytes, async (document) => {
    if (page > document.numPages) {
      throw new Error(`expected a page up to ${document.numPages}, found ${page}`);
    }
    return drawn(await document.getPage(page), wish);
  });
}

async function reading<T>(
  bytes: Uint8Array,
  work: (document: PDFDocumentProxy) => Promise<T>,
): Promise<Result<T>> {
  const loading = getDocument({
    data: new Uint8Array(bytes),
    standardFontDataUrl: join(packageFolder, 'standard_fonts/'),
    cMapUrl: join(packageFolder, 'cmaps/'),
    cMapPacked: true,
    wasmUrl: join(packageFolder, 'wasm/'),
    // Nothing in the file may run, and nothing outside of it is looked for.
    isEvalSupported: false,
    enableXfa: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  });
  try {
    const document = await loading.promise;
    if (document.numPages > MAX_PDF_PAGES) {
      throw new Error(`expected at most ${MAX_PDF_PAGES} pages, found ${document.numPages}`);
    }
    return success(await work(document));
  } catch (error) {
    return failure(`The PDF could not be read: ${sentence(error)}.`);
  } finally {
    await loading.destroy();
  }
}

/** Vector pages have no size of their own: drawn at this many px on the longer side. */
const VECTOR_LONG_SIDE_PX = 4_000;

async function drawn(page: PDFPageProxy, wish: PageWish): Promise<Buffer> {
  const paper = page.getViewport({ scale: 1 });
  const points = Math.max(paper.width, paper.height);
  const longSide = wish.longSidePx ?? (await pictureLongSide(page)) ?? VECTOR_LONG_SIDE_PX;
  const scale = Math.min(longSide, MAX_PDF_LONG_SIDE_PX) / points;
  const viewport = page.getViewport({ scale });
  const canvas = createCanvas(
    Math.max(1, Math.round(viewport.width)),
    Math.max(1, Math.round(viewport.height)),
  );
  const background = wish.onPaper ? '#ffffff' : 'rgba(0, 0, 0, 0)';
  // Given a canvas, the library would make its ground opaque; its context it leaves as it is. It
  // knows the browser's by type, and this one has the same methods.
  const canvasContext = canvas.getContext('2d') as never;
  await page.render({ canvas: null, canvasContext, viewport, background }).promise;
  return canvas.encode('png');
}

/** An office copier's page is one picture: it is drawn with just the pixels it has. */
async function pictureLongSide(page: PDFPageProxy): Promise<number | null> {
  const { fnArray, argsArray } = await page.getOperatorList();
  let longest: number | null = null;
  fnArray.forEach((operator, index) => {
    if (operator !== OPS.paintImageXObject) return;
    const [, width, height] = argsArray[index] as [string, number, number];
    longest = Math.max(longest ?? 0, width, height);
  });
  return longest;
}

function sentence(error: unknown): string {
  const name = (error as Error | null)?.name;
  if (name === 'PasswordException') return 'it is locked by a password';
  if (name === 'InvalidPDFException') return 'it is damaged or no PDF';
  return messageOf(error);
}
