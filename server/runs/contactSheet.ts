import { PDFDocument, StandardFonts, rgb, type PDFFont, type PDFPage } from 'pdf-lib';

/** Sizes of a page in points, 1/72 inch: A4, upright. */
const PAGE = Object.freeze({ width: 595.28, height: 841.89 });
const MARGIN = 36;
const HEAD = 34;
const COLUMNS = 4;
const ROWS = 6;
const GAP = 12;
const NAME_SIZE = 7;
const NAME_ROOM = 12;
const TITLE_SIZE = 15;
const INK = rgb(20 / 255, 48 / 255, 61 / 255);
const QUIET = rgb(82 / 255, 103 / 255, 111 / 255);
const HAIRLINE = rgb(217 / 255, 210 / 255, 194 / 255);

interface Entry {
  readonly name: string;
  /** A JPEG; null: it could not be opened. */
  readonly picture: Uint8Array | null;
}

/** Photos on pages with their names: a sheet of contacts. */
export class ContactSheet {
  private readonly entries: Entry[] = [];

  /** @param head what stands over each page; `made` is ISO 8601 */
  constructor(private readonly head: { readonly title: string; readonly made: string }) {}

  add(name: string, picture: Uint8Array | null): void {
    this.entries.push({ name, picture });
  }

  async finished(): Promise<Uint8Array> {
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont(StandardFonts.Helvetica);
    const perPage = COLUMNS * ROWS;
    const pages = Math.ceil(this.entries.length / perPage);
    for (let number = 0; number < pages; number++) {
      const page = pdf.addPage([PAGE.width, PAGE.height]);
      this.drawHead(page, font, `${number + 1} of ${pages}`);
      const some = this.entries.slice(number * perPage, (number + 1) * perPage);
      for (const [index, entry] of some.entries()) await drawEntry(pdf, page, font, entry, index);
    }
    pdf.setTitle(this.head.title);
    return pdf.save();
  }

  private drawHead(page: PDFPage, font: PDFFont, count: string): void {
    const y = PAGE.height - MARGIN - TITLE_SIZE;
    const { title, made } = this.head;
    const shown = fitted(title, font, TITLE_SIZE, PAGE.width * 0.6);
    page.drawText(shown, { x: MARGIN, y, size: TITLE_SIZE, font, color: INK });
    const told = `${made.slice(0, 'YYYY-MM-DD'.length)}, ${count}`;
    const x = PAGE.width - MARGIN - font.widthOfTextAtSize(told, NAME_SIZE + 1);
    page.drawText(told, { x, y, size: NAME_SIZE + 1, font, color: QUIET });
  }
}

const CELL = Object.freeze({
  width: (PAGE.width - 2 * MARGIN - (COLUMNS - 1) * GAP) / COLUMNS,
  height: (PAGE.height - 2 * MARGIN - HEAD - (ROWS - 1) * GAP) / ROWS,
});

async function drawEntry(
  pdf: PDFDocument,
  page: PDFPage,
  font: PDFFont,
  { name, picture }: Entry,
  index: number,
): Promise<void> {
  const left = MARGIN + (index % COLUMNS) * (CELL.width + GAP);
  const top = PAGE.height - MARGIN - HEAD - Math.floor(index / COLUMNS) * (CELL.height + GAP);
  const room = { width: CELL.width, height: CELL.height - NAME_ROOM };
  if (picture) {
    const image = await pdf.embedJpg(picture);
    const { width, height } = image.scaleToFit(room.width, room.height);
    const x = left + (room.width - width) / 2;
    page.drawImage(image, { x, y: top - room.height + (room.height - height) / 2, width, height });
  } else {
    page.drawRectangle({
      ...{ x: left, y: top - room.height, ...room },
      ...{ borderColor: HAIRLINE, borderWidth: 0.5 },
    });
  }
  const shown = fitted(name, font, NAME_SIZE, CELL.width);
  const x = left + (CELL.width - font.widthOfTextAtSize(shown, NAME_SIZE)) / 2;
  page.drawText(shown, { x, y: top - CELL.height + 2, size: NAME_SIZE, font, color: QUIET });
}

/** A name in the letters that the font has, cut in its middle where there is no room: both ends tell. */
function fitted(text: string, font: PDFFont, size: number, width: number): string {
  const known = new Set(font.getCharacterSet());
  const letters = [...text.normalize('NFC')].map((letter) =>
    known.has(letter.codePointAt(0) ?? 0) ? letter : '?',
  );
  const whole = letters.join('');
  if (font.widthOfTextAtSize(whole, size) <= width) return whole;
  for (let kept = letters.length - 1; kept > 2; kept--) {
    const before = Math.ceil(kept / 2);
    const cut = [...letters.slice(0, before), '…', ...letters.slice(before - kept)].join('');
    if (font.widthOfTextAtSize(cut, size) <= width) return cut;
  }
  return '';
}
