import sharp from 'sharp';
import { byteOfLinear } from '#core/colour/linearLight';
import { SCAN_KINDS, syntheticScan } from './syntheticScan.ts';

/** Photos of a signed sheet as a phone takes them, made from scans of known coverage. */

const INK = { width: 900, height: 600 };
const SHEET = { width: 1_200, height: 900 };
const TABLE = { width: 1_800, height: 1_350 };
/** Where the ink's picture lies on the sheet, and the sheet on the table. */
const ON_SHEET = { left: 160, top: 140 };
const ON_TABLE = { left: 300, top: 210 };

/** True ink box of the hand within its own picture, px: measured once, held by a test. */
export interface PhonePhoto {
  readonly jpeg: Buffer;
  /** Share of the picture that the ink box is wide and high, after turning upright. */
  readonly inkAspect: number;
}

/** A sheet in falling light on a dark table, lying sideways before the camera. */
export async function phonePhoto(): Promise<PhonePhoto> {
  const { truth } = syntheticScan(SCAN_KINDS[0], INK.width, INK.height);
  const data = Buffer.alloc(TABLE.width * TABLE.height * 3);
  let [left, right, top, bottom] = [INK.width, 0, INK.height, 0];
  for (let y = 0, at = 0; y < TABLE.height; y++) {
    for (let x = 0; x < TABLE.width; x++, at += 3) {
      const sheetX = x - ON_TABLE.left;
      const sheetY = y - ON_TABLE.top;
      const onSheet = sheetX >= 0 && sheetY >= 0 && sheetX < SHEET.width && sheetY < SHEET.height;
      const light = 0.85 - (0.45 * x) / TABLE.width;
      const wood = 0.1 + 0.02 * Math.sin(y / 9 + x / 70);
      const paper = onSheet ? light * (1 - coverageAt(sheetX, sheetY) * 0.96) : wood;
      data[at] = byteOfLinear(paper);
      data[at + 1] = byteOfLinear(paper * 0.94);
      data[at + 2] = byteOfLinear(paper * 0.82);
    }
  }

  function coverageAt(sheetX: number, sheetY: number): number {
    const x = sheetX - ON_SHEET.left;
    const y = sheetY - ON_SHEET.top;
    if (x < 0 || y < 0 || x >= INK.width || y >= INK.height) return 0;
    const value = truth.data[y * INK.width + x] / 255;
    if (value > 0.05) {
      [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
    }
    return value;
  }

  const jpeg = await sharp(data, { raw: { ...TABLE, channels: 3 } })
    .rotate(270)
    .jpeg({ quality: 92 })
    .toBuffer();
  return { jpeg, inkAspect: (right - left) / (bottom - top) };
}

/** A ring on an opaque white box, as JPEG. */
export function boxedLogo(): Promise<Buffer> {
  const [width, height] = [480, 320];
  const data = Buffer.alloc(width * height * 3);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      const away = Math.abs(Math.hypot(x + 0.5 - 240, y + 0.5 - 160) - 96) - 13;
      const ink = Math.min(1, Math.max(0, 0.5 - away));
      data[at] = 255 - 235 * ink;
      data[at + 1] = 255 - 207 * ink;
      data[at + 2] = 255 - 178 * ink;
    }
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
    .toBuffer();
}
