import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sheetSchema, type SheetRule } from '../contract/sheet.ts';
import type { Size } from '../placement/geometry.ts';
import { PAPER_NAMES, PAPERS } from './papers.ts';
import {
  cropLines,
  photosASheet,
  planSheet,
  roomAround,
  sheetCount,
  type PlannedSheet,
} from './planSheets.ts';

const rule = (part: object): SheetRule => sheetSchema.parse(part);
const LYING = { width: 600, height: 400 };
const UPRIGHT = { width: 400, height: 600 };

function planned(part: object, ...photos: Size[]): PlannedSheet {
  const sheet = planSheet(rule(part), photos);
  if (!sheet.ok) throw new Error(sheet.reason);
  return sheet.value;
}

describe('paper', () => {
  it('has the sizes of ISO 216: each half of the next, of one shape', () => {
    for (const [larger, smaller] of [
      ['a2', 'a3'],
      ['a3', 'a4'],
      ['a4', 'a5'],
      ['a5', 'a6'],
      ['b3', 'b4'],
      ['b4', 'b5'],
      ['b5', 'b6'],
    ] as const) {
      expect(PAPERS[smaller].height).toBe(PAPERS[larger].width);
      expect(PAPERS[smaller].width).toBe(Math.floor(PAPERS[larger].height / 2));
      expect(PAPERS[larger].height / PAPERS[larger].width).toBeCloseTo(Math.SQRT2, 1);
    }
    for (const name of PAPER_NAMES) {
      expect(PAPERS[name].height).toBeGreaterThan(PAPERS[name].width);
    }
  });

  it('lies as it is told, or as the photo', () => {
    expect(planned({ lies: 'upright' }, LYING).size).toEqual({ width: 210, height: 297 });
    expect(planned({ lies: 'across' }, UPRIGHT).size).toEqual({ width: 297, height: 210 });
    expect(planned({ lies: 'photo' }, LYING).size).toEqual({ width: 297, height: 210 });
    expect(planned({ lies: 'photo' }, UPRIGHT).size).toEqual({ width: 210, height: 297 });
    const own = { width: 500, height: 300 };
    expect(planned({ paper: own }, LYING).size).toEqual({ width: 300, height: 500 });
  });
});

describe('a photo', () => {
  it('lies whole in the middle of its place', () => {
    const { photos } = planned({ lies: 'across', margin: { left: 20 } }, LYING);
    // 267 × 190 mm are left: as high as that, 285 mm would be too wide.
    expect(photos[0].box).toEqual({ x: 20, y: 10 + (190 - 178) / 2, width: 267, height: 178 });
    expect(photos[0].part).toEqual({ x: 0, y: 0, width: 1, height: 1 });
  });

  it('fills its place, cut at two sides, and goes beyond the edges it reaches', () => {
    const none = { top: 0, right: 0, bottom: 0, left: 0 };
    const part = { fit: 'fill', paper: { width: 100, height: 100 }, margin: none, bleed: 3 };
    const [photo] = planned(part, LYING).photos;
    expect(photo.box).toEqual({ x: -3, y: -3, width: 106, height: 106 });
    expect(photo.part.height).toBe(1);
    expect(photo.part.width).toBeCloseTo(2 / 3);
    expect(photo.part.x).toBeCloseTo(1 / 6);
    const inner = planned({ ...part, margin: { ...none, left: 8 } }, LYING).photos[0];
    expect(inner.box).toEqual({ x: 8, y: -3, width: 95, height: 106 });
  });

  it('has its caption right under it', () => {
    const part = { lies: 'across', caption: { size: 5 }, grid: { columns: 2 } };
    const { photos } = planned(part, LYING, UPRIGHT);
    for (const { box, caption } of photos) {
      expect(caption?.height).toBe(9);
      expect(caption?.y).toBeCloseTo(box.y + box.height);
    }
    const filled = planned({ ...part, fit: 'fill' }, LYING).photos[0];
    expect(filled.caption?.y).toBeCloseTo(200 - 9);
  });
});

describe('a sheet', () => {
  it('takes photos row by row, and as many sheets as it needs', () => {
    const grid = { columns: 3, rows: 4, gap: 5 };
    expect(photosASheet(rule({ grid }))).toBe(12);
    expect([0, 1, 12, 13, 2_000].map((count) => sheetCount(rule({ grid }), count))).toEqual([
      ...[0, 1, 1, 2, 167],
    ]);
    const { photos } = planned({ grid }, ...Array.from({ length: 5 }, () => LYING));
    expect(photos.map(({ index }) => index)).toEqual([0, 1, 2, 3, 4]);
    expect(photos[1].box.x).toBeGreaterThan(photos[0].box.x);
    expect(photos[3].box.x).toBe(photos[0].box.x);
    expect(photos[3].box.y).toBeGreaterThan(photos[0].box.y);
    expect(planSheet(rule({ grid }), [LYING], 24).ok).toBe(true);
  });

  it('says where there is no room', () => {
    const sheet = planSheet(rule({ paper: '10x15', grid: { columns: 20, rows: 20, gap: 10 } }), [
      LYING,
    ]);
    expect(sheet.ok || sheet.reason).toMatch(/at least 5 mm on a sheet of 100 × 150 mm/);
  });

  it('keeps all photos apart and within its margins, whatever it is', () => {
    const mm = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });
    const photo = fc.record({
      width: fc.integer({ min: 50, max: 9_000 }),
      height: fc.integer({ min: 50, max: 9_000 }),
    });
    const rules = fc.record({
      paper: fc.constantFrom(...PAPER_NAMES),
      lies: fc.constantFrom('upright', 'across', 'photo'),
      fit: fc.constantFrom('inside', 'fill'),
      margin: fc.record({ top: mm(1, 20), right: mm(1, 20), bottom: mm(1, 20), left: mm(1, 20) }),
      grid: fc.record({
        columns: fc.integer({ min: 1, max: 4 }),
        rows: fc.integer({ min: 1, max: 4 }),
        gap: mm(0, 8),
      }),
      caption: fc.constantFrom(null, { size: 3 }),
      bleed: mm(0, 5),
    });
    fc.assert(
      fc.property(rules, fc.array(photo, { minLength: 1, maxLength: 4 }), (part, photos) => {
        const whole = rule(part);
        const shown = photos.slice(0, photosASheet(whole));
        const sheet = planSheet(whole, shown);
        if (!sheet.ok) return;
        const { size, photos: placed } = sheet.value;
        const { margin } = whole;
        placed.forEach(({ box, part: seen, caption }, at) => {
          const low = Math.max(box.y + box.height, caption ? caption.y + caption.height : 0);
          expect(box.x).toBeGreaterThanOrEqual(margin.left - 1e-6);
          expect(box.y).toBeGreaterThanOrEqual(margin.top - 1e-6);
          expect(box.x + box.width).toBeLessThanOrEqual(size.width - margin.right + 1e-6);
          expect(low).toBeLessThanOrEqual(size.height - margin.bottom + 1e-6);
          // What is drawn has the photo's own shape.
          const { width, height } = shown[at];
          const shape = (seen.width * width) / (seen.height * height);
          expect(box.width / box.height / shape).toBeCloseTo(1, 6);
          for (const other of placed.slice(at + 1)) {
            const isApart =
              box.x + box.width <= other.box.x + 1e-6 ||
              other.box.x + other.box.width <= box.x + 1e-6 ||
              low <= other.box.y + 1e-6;
            expect(isApart).toBe(true);
          }
        });
      }),
      { seed: 11, numRuns: 300 },
    );
  });
});

describe('crop marks', () => {
  it('stand at the four corners, beyond the bleed', () => {
    const marked = rule({ crop_marks: true, bleed: 4 });
    const size = { width: 100, height: 50 };
    const lines = cropLines(marked, size);
    expect(lines).toHaveLength(8);
    expect(roomAround(marked)).toBe(9);
    for (const { x1, y1, x2, y2 } of lines) {
      const isLevel = y1 === y2;
      expect(isLevel ? [0, 50] : [0, 100]).toContain(isLevel ? y1 : x1);
      const [near, far] = isLevel ? [x1, x2] : [y1, y2];
      const side = isLevel ? size.width : size.height;
      expect([-4, side + 4]).toContain(near);
      expect([-9, side + 9]).toContain(far);
    }
    expect(cropLines(rule({}), size)).toEqual([]);
    expect([roomAround(rule({})), roomAround(rule({ bleed: 2 }))]).toEqual([0, 2]);
    expect(roomAround(rule({ crop_marks: true }))).toBe(8);
  });
});
