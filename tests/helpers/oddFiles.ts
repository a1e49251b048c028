import { crc32, deflateSync } from 'node:zlib';
import { PDFDocument } from 'pdf-lib';

/** Files that are made to be slow, large or nonsense, as strangers may send them. */

const SVG_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">';
const NESTED = 60_000;
const CSS_BYTES = 9_900_000;

export function nestedSvg(): Buffer {
  return Buffer.from(`${SVG_HEAD}${'<g>'.repeat(NESTED)}${'</g>'.repeat(NESTED)}</svg>`);
}

export function atRulesSvg(): Buffer {
  const rules = '@media print '.repeat(Math.floor(CSS_BYTES / '@media print '.length));
  return Buffer.from(`${SVG_HEAD}<style>${rules}</style></svg>`);
}

export function droppedRulesSvg(): Buffer {
  const rules = '@page '.repeat(Math.floor(CSS_BYTES / '@page '.length));
  return Buffer.from(`${SVG_HEAD}<style>${rules}</style></svg>`);
}

/** Bytes that begin like a font and go on like nothing. */
export function nonsenseFont(bytes = 3_000_000): Buffer {
  const font = Buffer.alloc(bytes);
  let noise = 7;
  for (let at = 0; at < bytes; at++) {
    noise = (noise * 1_103_515_245 + 12_345) & 0x7fffffff;
    font[at] = noise >> 16;
  }
  font.writeUInt32BE(0x00010000, 0);
  font.writeUInt16BE(40, 4);
  return font;
}

/** A PNG that says it is this large and is a few kilobytes of one row repeated. */
export function hugePng(side = 30_000): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side, 4);
  head.set([8, 0, 0, 0, 0], 8);
  const rows = deflateSync(Buffer.alloc((side + 1) * 400));
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', head),
    chunk('IDAT', rows),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

function chunk(kind: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(kind, 'latin1'), data]);
  const framed = Buffer.alloc(body.length + 8);
  framed.writeUInt32BE(data.length, 0);
  body.copy(framed, 4);
  framed.writeUInt32BE(crc32(body), body.length + 4);
  return framed;
}

export async function longPdf(pages = 5_000): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  for (let page = 0; page < pages; page++) pdf.addPage([200, 200]);
  return Buffer.from(await pdf.save());
}
