import { cropLines, roomAround } from '#core/sheet/planSheets';
import { MM_AN_INCH } from '#core/sheet/photoOnSheet';
import type { Canvas } from '#core/pixels';
import type { Box } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { composeMark } from '../compose.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { sharp } from '../sharp.ts';
import { captionPath } from './captionPath.ts';
import type { LaidSheet, MarkedArea } from './sheetLayout.ts';
import type { SheetJob } from './sheetJob.ts';

const WHITE = { r: 255, g: 255, b: 255 };
const CAPTION_GREY = '#3c4448';
const EMPTY_GREY = '#b9c0c2';
/** Of crop marks, mm. */
const HAIRLINE_MM = 0.1;

/** A sheet as pixels, with what is round it. */
export async function sheetPicture(
  { rule }: SheetJob,
  sheet: LaidSheet,
  rasteriser: Rasteriser,
): Promise<Result<Canvas>> {
  const scale = rule.sheet.dpi / MM_AN_INCH;
  const room = roomAround(rule.sheet);
  const px = (mm: number): number => Math.round(mm * scale);
  const width = Math.max(1, px(sheet.size.width + 2 * room));
  const height = Math.max(1, px(sheet.size.height + 2 * room));
  const layers: { input: Buffer; left: number; top: number }[] = [];
  for (const { photo, box } of sheet.photos) {
    if (photo.path === null) continue;
    const left = px(box.x + room);
    const top = px(box.y + room);
    const size = {
      width: Math.max(1, px(box.x + box.width + room) - left),
      height: Math.max(1, px(box.y + box.height + room) - top),
    };
    const input = await sharp(photo.path)
      .resize(size.width, size.height, { fit: 'fill' })
      .png({ compressionLevel: 0 })
      .toBuffer();
    layers.push({ input, left, top });
  }
  const under = linesSvg(rule, sheet, { width, height }, scale, room);
  const background = { width, height, channels: 3, background: WHITE } as const;
  const { data } = await sharp({ create: background, limitInputPixels: false })
    .composite([...layers, { input: Buffer.from(under), left: 0, top: 0 }])
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  const page: Canvas = { ...{ data: pixels, width, height }, channels: 3, depth: 8, space: 'srgb' };
  const areas = [
    ...sheet.photos.filter(({ photo }) => photo.path !== null).map(({ marked }) => marked),
    sheet.margin,
  ];
  for (const area of areas) {
    const drawn = await drawMarks(
      page,
      area,
      px(area.box.x + room),
      px(area.box.y + room),
      rasteriser,
    );
    if (!drawn.ok) return drawn;
  }
  return success(page);
}

/** Marks are drawn on what they may cover alone, so that none reaches over the edge of its photo. */
async function drawMarks(
  page: Canvas,
  { frame, laid }: MarkedArea,
  left: number,
  top: number,
  rasteriser: Rasteriser,
): Promise<Result<void>> {
  if (laid.length === 0 || page.depth !== 8) return success(undefined);
  const width = Math.min(frame.width, page.width - left);
  const height = Math.min(frame.height, page.height - top);
  const area = cutFrom(page, { x: left, y: top, width, height });
  for (const one of laid) {
    const window = { frame, left: 0, top: 0 };
    const drawn = await composeMark(area, one, rasteriser, null, window);
    if (!drawn.ok) return drawn;
  }
  putInto(page, area, left, top);
  return success(undefined);
}

type Page = Extract<Canvas, { depth: 8 }>;

function cutFrom(page: Page, { x, y, width, height }: Box): Page {
  const { channels } = page;
  const data = new Uint8ClampedArray(width * height * channels);
  for (let row = 0; row < height; row++) {
    const from = ((y + row) * page.width + x) * channels;
    data.set(page.data.subarray(from, from + width * channels), row * width * channels);
  }
  return { ...page, data, width, height };
}

function putInto(page: Page, area: Page, left: number, top: number): void {
  const { channels, width, height } = area;
  for (let row = 0; row < height; row++) {
    const from = row * width * channels;
    const line = area.data.subarray(from, from + width * channels);
    page.data.set(line, ((top + row) * page.width + left) * channels);
  }
}

function linesSvg(
  rule: SheetJob['rule'],
  sheet: LaidSheet,
  { width, height }: { readonly width: number; readonly height: number },
  scale: number,
  room: number,
): string {
  const captions = sheet.photos.map(({ photo, caption }) =>
    caption ? captionPath(photo.caption, caption, rule.sheet.caption?.size ?? 0) : '',
  );
  const empty = sheet.photos
    .filter(({ photo }) => photo.path === null)
    .map(({ box }) => `M${box.x} ${box.y}h${box.width}v${box.height}h${-box.width}z`);
  const lines = cropLines(rule.sheet, sheet.size).map(
    ({ x1, y1, x2, y2 }) => `M${x1} ${y1}L${x2} ${y2}`,
  );
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">` +
    `<g transform="scale(${scale}) translate(${room} ${room})" stroke-width="${HAIRLINE_MM}">` +
    `<path d="${captions.join('')}" fill="${CAPTION_GREY}"/>` +
    `<path d="${empty.join('')}" fill="none" stroke="${EMPTY_GREY}"/>` +
    `<path d="${lines.join('')}" fill="none" stroke="#000"/></g></svg>`
  );
}
