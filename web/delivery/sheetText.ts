import type { SheetRule } from '#core/contract/sheet';
import type { PAPERS } from '#core/sheet/papers';

/** What a delivery to paper says, in words. */

export const PAPER_TEXTS: Readonly<Record<keyof typeof PAPERS, string>> = {
  a2: 'A2',
  a3: 'A3',
  a4: 'A4',
  a5: 'A5',
  a6: 'A6',
  b3: 'B3',
  b4: 'B4',
  b5: 'B5',
  b6: 'B6',
  '10x15': '10 × 15 cm',
  '13x18': '13 × 18 cm',
  '20x30': '20 × 30 cm',
  '4x6in': '4 × 6 inches',
  '5x7in': '5 × 7 inches',
  '8x10in': '8 × 10 inches',
  letter: 'Letter',
};

export const LIES_TEXTS = {
  upright: 'upright',
  across: 'across',
  photo: 'as the photo lies',
} as const;

export const FIT_TEXTS = { inside: 'whole photos', fill: 'cut to fill their places' } as const;

export const SHEET_FILE_TEXTS = {
  pdf: 'one PDF',
  tiff: 'a TIFF a sheet',
  jpeg: 'a JPEG a sheet',
} as const;

export const SHEET_MARK_TEXTS = {
  photo: 'on each photo',
  margin: 'in the margin',
  both: 'on each photo and in the margin',
} as const;

export function paperText({ paper, lies, margin }: SheetRule): string {
  const name =
    typeof paper === 'string' ? PAPER_TEXTS[paper] : `${paper.width} × ${paper.height} mm`;
  return `${name} ${LIES_TEXTS[lies]}, ${marginText(margin)}`;
}

function marginText({ top, right, bottom, left }: SheetRule['margin']): string {
  const isSame = top === right && right === bottom && bottom === left;
  if (isSame && top === 0) return 'to the very edge';
  if (isSame) return `${top} mm free all round`;
  const isEven = top === bottom && left === right;
  return isEven
    ? `${top} mm free above and below, ${left} mm beside`
    : `${top}, ${right}, ${bottom}, ${left} mm free`;
}

export function placesText({ grid, fit, caption }: SheetRule): string {
  const { columns, rows } = grid;
  const places = columns * rows === 1 ? 'one photo a sheet' : `${columns} × ${rows} photos a sheet`;
  const parts = [places, fit === 'fill' ? FIT_TEXTS.fill : ''];
  if (caption) parts.push(caption.pattern === '{name}' ? 'with their names' : 'with a line each');
  return parts.filter(Boolean).join(', ');
}

export function sheetMarkText({ mark_on: place }: SheetRule): string {
  return SHEET_MARK_TEXTS[place];
}

export function printText({ as, dpi, bleed, crop_marks: hasMarks }: SheetRule): string {
  const parts = [`${SHEET_FILE_TEXTS[as]} at ${dpi} dpi`];
  if (bleed > 0) parts.push(`${bleed} mm bleed`);
  if (hasMarks) parts.push('crop marks');
  return parts.join(', ');
}

/** In a few letters, for a list. */
export function shortSheet({ paper, grid }: SheetRule): string {
  const name = typeof paper === 'string' ? PAPER_TEXTS[paper] : `${paper.width} × ${paper.height}`;
  const each = grid.columns * grid.rows;
  return each === 1 ? name : `${name}, ${each} each`;
}
