import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { open, readFile, stat, unlink } from 'node:fs/promises';
import { finished } from 'node:stream/promises';
import PDFDocument from 'pdfkit';
import { cropLines, roomAround } from '#core/sheet/planSheets';
import { MM_AN_INCH } from '#core/sheet/photoOnSheet';
import { success, failure, type Result } from '#core/result';
import { storageSentence } from '../../storage/storageErrors.ts';
import { messageOf } from '../imageErrors.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { captionPath } from './captionPath.ts';
import { PdfMarks } from './pdfMarks.ts';
import type { Pdf } from './pdfForms.ts';
import type { LaidPhoto, LaidSheet, SheetLayout } from './sheetLayout.ts';
import type { SheetJob, WrittenDocument } from './sheetJob.ts';

const POINTS_AN_INCH = 72;
export const POINTS_A_MM = POINTS_AN_INCH / MM_AN_INCH;
/** Of crop marks, points. */
const HAIRLINE = 0.25;
const CAPTION_GREY = '#3c4448';
const EMPTY_GREY = '#b9c0c2';

/**
 * Sheets as one PDF (PDF/A-2b: sRGB is declared, nothing is left outside), written sheet by sheet as a
 * stream, so that as many as there are take no more memory than one.
 */
export async function writeSheetPdf(
  job: SheetJob,
  layout: SheetLayout,
  temporaryPath: string,
  rasteriser: Rasteriser,
): Promise<Result<WrittenDocument>> {
  const pdf = new PDFDocument({
    ...{ autoFirstPage: false, subset: 'PDF/A-2b', pdfVersion: '1.7', margin: 0 },
    // No text is set by the library: letters are outlines.
    font: null as unknown as string,
    info: {
      ...{ Title: job.title, Creator: 'Light Crest', Producer: 'Light Crest' },
      ...(job.rule.metadata.artist ? { Author: job.rule.metadata.artist } : {}),
    },
  });
  const file = createWriteStream(temporaryPath);
  const written = finished(file);
  // Told where it is waited for.
  written.catch(() => undefined);
  pdf.pipe(file);
  const marks = new PdfMarks(pdf, rasteriser);
  try {
    for (let at = 0; at < layout.count; at++) {
      const sheet = await layout.sheet(at);
      if (!sheet.ok) return await givenUp(file, temporaryPath, sheet.reason);
      const drawn = await drawSheet(pdf, job, sheet.value, marks);
      if (!drawn.ok) return await givenUp(file, temporaryPath, drawn.reason);
      if (file.writableNeedDrain) await Promise.race([once(file, 'drain'), written]);
    }
    pdf.end();
    await written;
    await flushed(temporaryPath);
    return success({ temporaryPath, bytes: (await stat(temporaryPath)).size });
  } catch (error) {
    const isStorage = file.errored !== null;
    const reason = isStorage ? storageSentence(temporaryPath, error) : messageOf(error);
    return givenUp(file, temporaryPath, reason);
  }
}

async function givenUp(
  file: ReturnType<typeof createWriteStream>,
  path: string,
  reason: string,
): Promise<Result<never>> {
  file.destroy();
  await unlink(path).catch(() => undefined);
  return failure(reason);
}

async function flushed(path: string): Promise<void> {
  const handle = await open(path, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

async function drawSheet(
  pdf: Pdf,
  { rule }: SheetJob,
  sheet: LaidSheet,
  marks: PdfMarks,
): Promise<Result<void>> {
  const room = roomAround(rule.sheet);
  const points = (mm: number): number => mm * POINTS_A_MM;
  const width = points(sheet.size.width + 2 * room);
  const height = points(sheet.size.height + 2 * room);
  pdf.addPage({ size: [width, height], margin: 0 });
  declareBoxes(pdf, { width, height }, points(room), points(rule.sheet.bleed));
  pdf.save();
  // From here on in mm from the upper left corner of the trimmed sheet.
  pdf.translate(points(room), points(room)).scale(POINTS_A_MM);
  for (const laid of sheet.photos) {
    const drawn = await drawPhoto(pdf, laid, rule.sheet.caption?.size ?? 0, marks);
    if (!drawn.ok) return drawn;
  }
  const margin = await marks.draw(sheet.margin);
  if (!margin.ok) return margin;
  for (const { x1, y1, x2, y2 } of cropLines(rule.sheet, sheet.size)) {
    pdf.moveTo(x1, y1).lineTo(x2, y2);
    pdf.lineWidth(HAIRLINE / POINTS_A_MM).stroke('#000000');
  }
  pdf.restore();
  return success(undefined);
}

async function drawPhoto(
  pdf: Pdf,
  { photo, box, caption, marked }: LaidPhoto,
  captionSize: number,
  marks: PdfMarks,
): Promise<Result<void>> {
  const { x, y, width, height } = box;
  if (photo.path === null) {
    pdf
      .rect(x, y, width, height)
      .lineWidth(HAIRLINE / POINTS_A_MM)
      .stroke(EMPTY_GREY);
  } else {
    // The bytes go into the document as they are.
    pdf.image(await readFile(photo.path), x, y, { width, height });
    const drawn = await marks.draw(marked);
    if (!drawn.ok) return drawn;
  }
  const path = caption && captionPath(photo.caption, caption, captionSize);
  if (path) pdf.path(path).fill(CAPTION_GREY);
  return success(undefined);
}

/** ISO 32000-2, 14.11.2: what is left when the sheet is cut, and how far it is printed beyond. */
function declareBoxes(
  pdf: Pdf,
  { width, height }: { readonly width: number; readonly height: number },
  room: number,
  bleed: number,
): void {
  const within = (by: number): number[] => [by, by, width - by, height - by];
  const { data } = pdf.page.dictionary as unknown as { data: Record<string, unknown> };
  data.TrimBox = within(room);
  data.BleedBox = within(room - bleed);
}
