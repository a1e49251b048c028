import { describe, expect, it } from 'vitest';
import { SHADOW_SCANS, SHADOW_SIZE, shadowKind } from '#tests/helpers/shadowScans';
import { liftQuality, syntheticScan } from '#tests/helpers/syntheticScan';
import { DEFAULT_LIFT } from '../contract/lift.ts';
import { findSheet } from './findSheet.ts';
import { hardEdges } from './hardShadows.ts';
import { liftedInk, preparedSheet } from './lift.ts';
import type { LinearImage } from './linearImage.ts';
import { readSheet } from './sheetPaper.ts';

/** Shadows across a sheet, and what lies beside one and is no shadow. */

const { width, height } = SHADOW_SIZE;

function wholeLift(scan: (typeof SHADOW_SCANS)[number]) {
  const made = syntheticScan(shadowKind(scan), width, height);
  const lifted = liftedInk(preparedSheet(readSheet(made.pixels), DEFAULT_LIFT), DEFAULT_LIFT);
  const whole = new Uint8Array(width * height);
  if (lifted.ok) {
    const { coverage, inkBox } = lifted.value;
    for (let y = 0; y < inkBox.height; y++) {
      const row = coverage.data.subarray(y * inkBox.width, (y + 1) * inkBox.width);
      whole.set(row, (inkBox.y + y) * width + inkBox.x);
    }
  }
  return liftQuality(whole, made);
}

describe('ink on a sheet with hard shadows', () => {
  // Of the whole set, which the bench goes through: the hardest edges and depths, and some between.
  const chosen = SHADOW_SCANS.filter(
    ({ edgePx, left }, index) => (edgePx === 8 && left === 0.35) || index % 23 === 5,
  );
  it.each(chosen.map((scan) => [shadowKind(scan).name, scan] as const))('%s', (_, scan) => {
    const { meanError, hairlinesKept, falseInk } = wholeLift(scan);
    expect(meanError).toBeLessThan(0.03);
    expect(hairlinesKept).toBeGreaterThan(0.98);
    expect(falseInk).toBeLessThan(0.002);
  });
});

type Colour = readonly [number, number, number];

function picture(colour: (x: number, y: number) => Colour, wide = 240, high = 160): LinearImage {
  const data = new Float32Array(wide * high * 3);
  for (let y = 0, at = 0; y < high; y++) {
    for (let x = 0; x < wide; x++, at += 3) data.set(colour(x, y), at);
  }
  return { data, width: wide, height: high };
}

const lit = ([r, g, b]: Colour, light: number): Colour => [r * light, g * light, b * light];
const PAPER: Colour = [0.85, 0.82, 0.76];
const WOOD: Colour = [0.3, 0.2, 0.12];
const GREY: Colour = [0.4, 0.4, 0.4];
const WHITE: Colour = [0.85, 0.85, 0.85];
const isOnSheet = (x: number, y: number): boolean => x > 30 && x < 210 && y > 20 && y < 140;

function areaOfPaper(image: LinearImage): number | null {
  const found = findSheet(image);
  return found && found.paper.reduce((sum, flag) => sum + flag, 0) / found.paper.length;
}

describe('a sheet', () => {
  const whole = (180 * 120) / (240 * 160);

  it('half in shadow on a table is one sheet, with the corners of the whole', () => {
    const found = findSheet(
      picture((x, y) => lit(isOnSheet(x, y) ? PAPER : WOOD, x > 120 ? 0.45 : 1)),
    );
    const corners = found?.corners;
    expect(corners).toBeTruthy();
    const wanted = [
      [31, 21],
      [210, 21],
      [210, 140],
      [31, 140],
    ];
    corners?.forEach(({ x, y }, index) => {
      expect(Math.hypot(x * 240 - wanted[index][0], y * 160 - wanted[index][1])).toBeLessThan(4);
    });
  });

  it.each<[string, Colour]>([
    ['of another hue', WOOD],
    ['of the same hue', lit(WHITE, 0.3)],
  ])('is not joined with a table %s all round it', (_, table) => {
    const share = areaOfPaper(picture((x, y) => (isOnSheet(x, y) ? WHITE : table)));
    expect(share).toBeGreaterThan(whole * 0.95);
    expect(share).toBeLessThan(whole * 1.05);
  });

  it('cut by the picture is not joined with a table that has a sharp edge to it', () => {
    const share = areaOfPaper(picture((x) => (x < 140 ? WHITE : GREY)));
    expect(share).toBeGreaterThan(0.55);
    expect(share).toBeLessThan(0.62);
  });

  it('cut by the picture is joined with what ink runs into, though its edge is sharp', () => {
    const image = picture((x, y) => {
      const isInk = Math.abs(y - 80 - 20 * Math.sin(x / 20)) < 3 && x > 40 && x < 200;
      return lit(WHITE, (x < 140 ? 1 : 0.45) * (isInk ? 0.05 : 1));
    });
    expect(findSheet(image)).toBe(null);
  });

  it('in shadow that is as bright as the table in the light is kept apart from it', () => {
    const share = areaOfPaper(
      picture((x, y) => {
        const isShaded = x + y * 0.5 > 160;
        return lit(isOnSheet(x, y) ? WHITE : [0.34, 0.23, 0.13], isShaded ? 0.28 : 1);
      }),
    );
    expect(share).toBeGreaterThan(whole * 0.93);
    expect(share).toBeLessThan(whole * 1.07);
  });

  it('says where ink runs on beyond it', () => {
    const inked = (to: number) =>
      findSheet(
        picture((x, y) => {
          const isInk = Math.abs(y - 80) < 3 && x > 60 && x < to;
          return lit(isOnSheet(x, y) ? PAPER : WOOD, isInk ? 0.08 : 1);
        }),
      );
    expect(inked(180)?.cutsInk).toBe(false);
    expect(inked(238)?.cutsInk).toBe(true);
  });

  it('of which a strip of table is seen along the edge of the picture ends before it', () => {
    const share = areaOfPaper(picture((_, y) => (y < 155 ? WHITE : WOOD)));
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.985);
  });
});

describe('edges of light', () => {
  const of = (light: (x: number) => number) => {
    const surface = Float32Array.from({ length: 100 * 60 }, (_, at) => light(at % 100));
    return hardEdges({ surface, areas: new Uint8Array(6_000) }, new Uint8Array(6_000), 100);
  };

  it('are hard where light falls within few pixels, and only there', () => {
    const edges = of((x) => (x < 50 ? 0.8 : 0.4));
    expect(edges?.[30 * 100 + 50]).toBe(1);
    expect(edges?.[30 * 100 + 20]).toBe(0);
    expect(of((x) => 0.8 - 0.006 * x)).toBe(null);
  });
});
