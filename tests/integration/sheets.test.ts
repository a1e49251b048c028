import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import { exampleWords } from '#core/lettering/photoWords';
import type { Size } from '#core/placement/geometry';
import { preparation } from '#core/sheet/photoOnSheet';
import type { MarkSource } from '#server/imaging/compose';
import { renderPhoto } from '#server/imaging/pass/renderPhoto';
import { drawMark } from '#server/imaging/raster/drawMark';
import { importArtwork } from '#server/imaging/raster/importArtwork';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import type { SheetJob, SheetPhotoJob } from '#server/imaging/sheet/sheetJob';
import { writeSheets } from '#server/imaging/sheet/writeSheets';
import { temporaryFolder } from '../helpers/house.ts';
import { MARK_SVG, pixelsOf, scene } from '../helpers/makePhoto.ts';
import { openPdf } from '../helpers/readPdf.ts';
import { ruleOf } from '../helpers/runs.ts';

/** Photos on paper, from the photo to the file, read back by another library. */

const folder = temporaryFolder();
const rasteriser = new Rasteriser(drawMark);
let mark: MarkSource;
let files = 0;

beforeAll(async () => {
  const imported = await importArtwork(Buffer.from(MARK_SVG), rasteriser);
  if (!imported.ok) throw new Error(imported.reason);
  mark = { key: 'mark', artwork: imported.value.artwork };
});
afterAll(() => undefined);

const RED = ruleOf({
  tone: { rule: 'fixed', tone: 'original' },
  anchor: 'top-left',
  size: { basis: 'width', value: 20 },
  inset: { unit: 'percent', x: 5, y: 5 },
  opacity: 1,
});

function sheetRule(sheet: object, more: object = {}): DeliveryRule {
  return deliveryRuleSchema.parse({ kind: 'sheet', sheet, ...more });
}

async function photoOf({ width, height }: Size): Promise<string> {
  const path = join(folder, `photo ${++files}.jpg`);
  await scene({ width, height }).jpeg({ quality: 90 }).toFile(path);
  return path;
}

async function prepared(
  rule: DeliveryRule,
  photos: readonly (Size & { readonly path: string | null })[],
  preset: PresetRule = RED,
): Promise<SheetPhotoJob[]> {
  const made: SheetPhotoJob[] = [];
  const each = rule.sheet.grid.columns * rule.sheet.grid.rows;
  for (const [index, photo] of photos.entries()) {
    const size = { width: photo.width, height: photo.height };
    const caption = `Photo ${index + 1}`;
    const none = { size, path: null, frame: size, marks: [], caption, words: null };
    if (photo.path === null) {
      made.push(none);
      continue;
    }
    const leader = photos[Math.floor(index / each) * each];
    const ready = preparation(rule, size, index, leader);
    if (!ready.ok) throw new Error(ready.reason);
    const temporaryPath = join(folder, `prepared ${++files}.jpg`);
    const [output] = await renderPhoto(
      {
        source: photo.path,
        named: { name: 'photo.jpg', number: 1, batch: 'Bay' },
        outputs: [
          {
            marks: [{ rule: preset, adjustment: {}, mark: 0 }],
            deliveryRule: ready.value.rule,
            temporaryPath,
            prepared: ready.value.prepared,
          },
        ],
      },
      [mark],
      rasteriser,
    );
    if (!output.ok) throw new Error(output.reason);
    const { frame, marks, words = exampleWords(2026) } = output.value;
    const laid = marks.map(({ placement }) => ({ placement, mark: 0 }));
    made.push({ ...{ size, path: temporaryPath, frame, words, caption }, marks: laid });
  }
  return made;
}

async function written(
  rule: DeliveryRule,
  photos: readonly SheetPhotoJob[],
  sheets: readonly (number | null)[] = [null],
  margin: PresetRule | null = null,
): Promise<string[]> {
  const job: SheetJob = {
    ...{ rule, title: 'Bay', photos },
    margin: margin ? [{ rule: margin, adjustment: {}, mark: 0 }] : [],
    files: sheets.map((sheet) => ({ sheet, temporaryPath: join(folder, `sheet ${++files}`) })),
  };
  const made = await writeSheets(job, [mark], rasteriser);
  if (!made.ok) throw new Error(made.reason);
  return made.value.map(({ temporaryPath }) => temporaryPath);
}

/** Within a tenth of a millimetre. */
function expectAt(found: Size & { x: number; y: number }, wanted: readonly number[]): void {
  const given = [found.x, found.y, found.width, found.height];
  for (const [at, value] of wanted.entries()) {
    expect(
      Math.abs(given[at] - value),
      `${given.join(', ')}, not ${wanted.join(', ')}`,
    ).toBeLessThan(0.1);
  }
}

describe('a PDF of one photo a sheet', () => {
  it('has the paper, the photo and the mark where the rule puts them, the mark as paths', async () => {
    const rule = sheetRule({ paper: 'a4', lies: 'photo', margin: {} });
    const path = await photoOf({ width: 3_000, height: 2_000 });
    const photos = await prepared(rule, [{ width: 3_000, height: 2_000, path }]);
    const [file] = await written(rule, photos);
    const pdf = await openPdf(file);
    expect([pdf.pages, pdf.title]).toEqual([1, 'Bay']);
    const page = await pdf.page(1);
    expectAt({ x: 0, y: 0, ...page }, [0, 0, 297, 210]);
    expect(page.images).toHaveLength(1);
    // 277 × 190 mm are left within the margins: 3 : 2 fits by its width.
    expectAt(page.images[0], [10, (210 - 277 / 1.5) / 2, 277, 277 / 1.5]);
    expect(page.outlines).toHaveLength(1);
    // 20 % wide, 5 % of the shorter side from the edges.
    const inset = (277 / 1.5) * 0.05;
    expectAt(page.outlines[0], [10 + inset, (210 - 277 / 1.5) / 2 + inset, 277 * 0.2, 277 * 0.08]);
    await pdf.close();
  });

  it('declares its colours, and holds the JPEG of the photo as it was made ready', async () => {
    const rule = sheetRule({ paper: '10x15', lies: 'across' });
    const path = await photoOf({ width: 900, height: 600 });
    const photos = await prepared(rule, [{ width: 900, height: 600, path }]);
    const [file] = await written(rule, photos);
    const bytes = readFileSync(file);
    expect(bytes.includes('/OutputIntent')).toBe(true);
    expect(bytes.includes(readFileSync(photos[0].path as string))).toBe(true);
  });

  it('with bleed and crop marks prints beyond the edge; the mark keeps to what is left', async () => {
    const rule = sheetRule({
      ...{ paper: '10x15', lies: 'across', fit: 'fill', bleed: 3, crop_marks: true },
      margin: { top: 0, right: 0, bottom: 0, left: 0 },
    });
    const path = await photoOf({ width: 2_000, height: 2_000 });
    const photos = await prepared(rule, [{ width: 2_000, height: 2_000, path }]);
    const [file] = await written(rule, photos);
    const pdf = await openPdf(file);
    const page = await pdf.page(1);
    // Marks begin 3 mm from the edge and are 5 mm long.
    expectAt({ x: 0, y: 0, ...page }, [0, 0, 166, 116]);
    expectAt(page.images[0], [5, 5, 156, 106]);
    expectAt(page.outlines[0], [8 + 5, 8 + 5, 30, 12]);
    expect(page.paths).toHaveLength(8);
    expect(readFileSync(file).includes('/TrimBox')).toBe(true);
    await pdf.close();
  });
});

describe('a grid', () => {
  const rule = sheetRule({
    ...{
      paper: 'a4',
      grid: { columns: 2, rows: 3, gap: 4 },
      caption: { pattern: '{name}', size: 3 },
    },
    ...{ mark_on: 'both', margin_mark: { width: 40, inset: 5 } },
  });

  it('has so many photos a sheet, each with its mark, and one in the margin in mm', async () => {
    const path = await photoOf({ width: 600, height: 400 });
    const photos = await prepared(rule, Array(8).fill({ width: 600, height: 400, path }));
    const [file] = await written(rule, photos, [null], { ...RED, anchor: 'bottom' });
    const pdf = await openPdf(file);
    expect(pdf.pages).toBe(2);
    const [first, second] = [await pdf.page(1), await pdf.page(2)];
    expect([first.images.length, second.images.length]).toEqual([6, 2]);
    expect([first.outlines.length, second.outlines.length]).toEqual([7, 3]);
    const inMargin = first.outlines[6];
    expectAt(inMargin, [(210 - 40) / 2, 297 - 5 - inMargin.height, 40]);
    // The captions, as outlines.
    expect(first.paths).toHaveLength(6);
    await pdf.close();
  });

  it('leaves the place of a photo empty that could not be made, and sheets without any out', async () => {
    const path = await photoOf({ width: 600, height: 400 });
    const one = { width: 600, height: 400 };
    const given = [
      { ...one, path },
      { ...one, path: null },
      { ...one, path },
    ];
    const all = [...given, ...Array<(typeof given)[number]>(9).fill({ ...one, path: null })];
    const [file] = await written(rule, await prepared(rule, all));
    const pdf = await openPdf(file);
    expect(pdf.pages).toBe(1);
    const page = await pdf.page(1);
    expect(page.images).toHaveLength(2);
    expect(page.images[1].x).toBeCloseTo(page.images[0].x, 1);
    await pdf.close();
  });
});

describe('a picture a sheet', () => {
  it('is the paper in pixels, tagged, with photo and mark where the PDF has them', async () => {
    const rule = sheetRule({ as: 'tiff', dpi: 150, paper: '10x15', lies: 'across', margin: {} });
    const path = await photoOf({ width: 1_200, height: 800 });
    const photos = await prepared(rule, [{ width: 1_200, height: 800, path }]);
    const [file] = await written(rule, photos, [0]);
    const { width, height, density, format } = await sharp(file).metadata();
    expect([width, height, density, format]).toEqual([886, 591, 150, 'tiff']);
    const { data } = await pixelsOf(file);
    const at = (x: number, y: number): number[] => {
      const from = (Math.round(y) * (width ?? 0) + Math.round(x)) * 3;
      return [...data.subarray(from, from + 3)];
    };
    expect(at(5, 5)).toEqual([255, 255, 255]);
    // 130 × 80 mm within the margins: 3 : 2 fits by its height, 120 × 80 mm.
    const [left, top] = [(15 / 25.4) * 150, (10 / 25.4) * 150];
    const inset = (80 / 25.4) * 150 * 0.05;
    const wide = (120 / 25.4) * 150 * 0.2;
    const pixels = Array.from({ length: Math.round(wide) }, (_, x) =>
      at(left + inset + x, top + inset + wide * 0.12),
    );
    expect(pixels.some(([r, g, b]) => r > 200 && g < 60 && b < 60)).toBe(true);
  });
});

describe('a mark that is soft', () => {
  it('is a picture in the pixels of the print', async () => {
    const rule = sheetRule({ paper: '10x15', lies: 'across' });
    const path = await photoOf({ width: 600, height: 400 });
    const clear = { r: 0, g: 0, b: 0, alpha: 0 };
    const input = { create: { width: 360, height: 160, channels: 3, background: '#c00' } } as const;
    const png = await sharp({ create: { width: 400, height: 200, channels: 4, background: clear } })
      .composite([{ input }])
      .png()
      .toBuffer();
    const imported = await importArtwork(png, rasteriser);
    if (!imported.ok) throw new Error(imported.reason);
    const outlined = mark;
    mark = { key: 'soft', artwork: imported.value.artwork };
    try {
      const photos = await prepared(rule, [{ width: 600, height: 400, path }]);
      const [file] = await written(rule, photos);
      const pdf = await openPdf(file);
      const page = await pdf.page(1);
      expect([page.images.length, page.outlines.length]).toEqual([2, 0]);
      // 80 mm are left for the width; a pixel of the print on each side is room for smoothed edges.
      const { x, y, width } = page.images[1];
      const [left, top] = [page.images[0].x, page.images[0].y];
      const inset = page.images[0].height * 0.05;
      expect(Math.abs(x - left - inset)).toBeLessThan(0.25);
      expect(Math.abs(y - top - inset)).toBeLessThan(0.25);
      expect(Math.abs(width - page.images[0].width * 0.2)).toBeLessThan(0.3);
      await pdf.close();
    } finally {
      mark = outlined;
    }
  });
});
