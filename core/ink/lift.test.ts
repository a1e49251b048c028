import { describe, expect, it } from 'vitest';
import {
  globalThreshold,
  liftQuality,
  SCAN_KINDS,
  syntheticScan,
} from '#tests/helpers/syntheticScan';
import { DEFAULT_LIFT, type LiftSettings } from '../contract/lift.ts';
import type { Pixels } from '../pixels.ts';
import { pickedAt } from './dropper.ts';
import { blackInk, liftedInk, NO_INK, preparedSheet, type LiftedInk } from './lift.ts';
import { readSheet } from './sheetPaper.ts';
import { keepsOutlines, tracedInk } from './liftArtwork.ts';
import { suggestedLift } from './suggestedLift.ts';

const [WIDTH, HEIGHT] = [900, 600];

function lift(pixels: Pixels, settings: Partial<LiftSettings> = {}): LiftedInk {
  const whole = { ...DEFAULT_LIFT, ...settings };
  const lifted = liftedInk(preparedSheet(readSheet(pixels), whole), whole);
  if (!lifted.ok) throw new Error(lifted.reason);
  return lifted.value;
}

function laidOut({ coverage, inkBox }: LiftedInk, width: number, height: number): Uint8Array {
  const whole = new Uint8Array(width * height);
  for (let y = 0; y < inkBox.height; y++) {
    const row = coverage.data.subarray(y * inkBox.width, (y + 1) * inkBox.width);
    whole.set(row, (inkBox.y + y) * width + inkBox.x);
  }
  return whole;
}

describe('quality on scans of known coverage', () => {
  it.each(SCAN_KINDS)('$name', (kind) => {
    const scan = syntheticScan(kind, WIDTH, HEIGHT);
    const ours = liftQuality(laidOut(lift(scan.pixels), WIDTH, HEIGHT), scan);
    expect(ours.meanError).toBeLessThan(0.06);
    expect(ours.hairlinesKept).toBeGreaterThan(0.93);
    expect(ours.falseInk).toBeLessThan(0.002);
    if (!kind.isUneven) return;
    const baseline = liftQuality(globalThreshold(scan.pixels), scan);
    expect(ours.meanError).toBeLessThan(baseline.meanError / 2);
  });
});

const [flat] = SCAN_KINDS;
const scan = syntheticScan(flat, WIDTH, HEIGHT);

function blank(value: number): Pixels {
  const data = new Uint8ClampedArray(120 * 90 * 3).fill(value);
  for (let at = 0; at < data.length; at += 7) data[at] += at % 3;
  return { data, width: 120, height: 90, channels: 3 };
}

describe('what is no ink', () => {
  it.each([250, 128, 20])('a blank sheet of brightness %d holds none, and says so', (value) => {
    const photo = readSheet(blank(value));
    const lifted = liftedInk(preparedSheet(photo, DEFAULT_LIFT), DEFAULT_LIFT);
    expect(lifted).toEqual({ ok: false, reason: NO_INK });
  });

  it('is what was rubbed out by hand', () => {
    const all = lift(scan.pixels);
    const rubbed = lift(scan.pixels, {
      strokes: [{ does: 'rub', radius: 0.2, points: [0.1, 0.8, 0.9, 0.85] }],
    });
    expect(rubbed.inkBox.height).toBeLessThan(all.inkBox.height - 80);
  });

  it('is the table beside the sheet', () => {
    const { width, height } = scan.pixels;
    const framed = { width: width + 260, height: height + 200 };
    const data = new Uint8ClampedArray(framed.width * framed.height * 3).fill(60);
    for (let y = 0; y < height; y++) {
      const row = scan.pixels.data.subarray(y * width * 3, (y + 1) * width * 3);
      data.set(row, ((y + 100) * framed.width + 130) * 3);
    }
    const { inkBox } = lift({ data, ...framed, channels: 3 });
    const plain = lift(scan.pixels).inkBox;
    expect(Math.abs(inkBox.x - plain.x - 130)).toBeLessThanOrEqual(2);
    expect(Math.abs(inkBox.width - plain.width)).toBeLessThanOrEqual(3);
    expect(Math.abs(inkBox.height - plain.height)).toBeLessThanOrEqual(3);
    // Told that all of the picture is paper, the table is what is dark on it.
    const whole = lift({ data, ...framed, channels: 3 }, { sheet: 'whole' }).inkBox;
    expect(whole.width).toBeGreaterThan(inkBox.width + 100);
  });
});

describe('crop', () => {
  it('gives the ink box within it, at the same place of the sheet', () => {
    const whole = lift(scan.pixels).inkBox;
    const crop = { x: 0.05, y: 0.05, width: 0.9, height: 0.93 };
    const within = lift(scan.pixels, { crop }).inkBox;
    expect(Math.abs(within.x + 45 - whole.x)).toBeLessThanOrEqual(1);
    expect(Math.abs(within.y + 30 - whole.y)).toBeLessThanOrEqual(1);
    expect(Math.abs(within.width - whole.width)).toBeLessThanOrEqual(1);
  });

  it('is suggested round the ink, with room', () => {
    const { crop } = suggestedLift(readSheet(scan.pixels));
    const { inkBox } = lift(scan.pixels);
    expect(crop).not.toBeNull();
    if (!crop) return;
    expect(crop.x * WIDTH).toBeLessThan(inkBox.x);
    expect((crop.x + crop.width) * WIDTH).toBeGreaterThan(inkBox.x + inkBox.width);
    expect(crop.width * crop.height).toBeLessThan(0.95);
  });
});

describe('what a hand changes', () => {
  const sum = (ink: LiftedInk): number => ink.coverage.data.reduce((a, b) => a + b, 0);
  const edgePixels = ({ coverage }: LiftedInk): number =>
    coverage.data.filter((value) => value > 20 && value < 235).length;

  it('line weight grows and shrinks strokes', () => {
    const plain = sum(lift(scan.pixels));
    expect(sum(lift(scan.pixels, { weight: 0.5 }))).toBeGreaterThan(plain * 1.03);
    expect(sum(lift(scan.pixels, { weight: -0.5 }))).toBeLessThan(plain * 0.97);
    expect(sum(lift(scan.pixels, { weight: 2 }))).toBeGreaterThan(
      sum(lift(scan.pixels, { weight: 1 })),
    );
  });

  it('edge makes fewer or more pixels half covered', () => {
    const plain = edgePixels(lift(scan.pixels));
    expect(edgePixels(lift(scan.pixels, { edge: 1 }))).toBeLessThan(plain * 0.6);
    expect(edgePixels(lift(scan.pixels, { edge: -1 }))).toBeGreaterThan(plain * 1.2);
  });

  it('a level that was picked holds', () => {
    const { levels } = lift(scan.pixels, { ink: 0.4 });
    expect(levels.ink).toBe(0.4);
    expect(levels.paper).toBeLessThan(1);
  });

  it('droppers read paper as 1 and ink as what it sends back', () => {
    const sheet = preparedSheet(readSheet(scan.pixels), DEFAULT_LIFT);
    expect(pickedAt(sheet, { x: 0.02, y: 0.02 })?.level).toBeCloseTo(1, 1);
    expect(pickedAt(sheet, { x: 0.5, y: 0.669 })?.level).toBeLessThan(0.1);
    const cropped = { ...DEFAULT_LIFT, crop: { x: 0.5, y: 0.5, width: 0.2, height: 0.2 } };
    const part = preparedSheet(readSheet(scan.pixels), cropped);
    expect(pickedAt(part, { x: 0.1, y: 0.1 })).toBeNull();
  });

  it('lengths mean the same on a reduced copy', () => {
    const settings = { ...DEFAULT_LIFT, specks: 40 };
    const sheet = preparedSheet(readSheet(scan.pixels), settings);
    const half = liftedInk(sheet, settings, 0.5);
    expect(half.ok && half.value.speckPx2).toBe(40);
  });
});

describe('outlines', () => {
  const ink = lift(scan.pixels);

  it('are kept where they are true to the ink, unless pixels are asked for', () => {
    const traced = tracedInk(ink, DEFAULT_LIFT);
    expect(traced?.amiss).toBeLessThan(0.03);
    expect(keepsOutlines(traced, DEFAULT_LIFT)).toBe(true);
    expect(keepsOutlines(traced, { ...DEFAULT_LIFT, form: 'pixels' })).toBe(false);
  });

  it('are not made of ink that keeps its colours', () => {
    const coloured = lift(scan.pixels, { colours: 'keep' });
    expect(tracedInk(coloured, DEFAULT_LIFT)).toBeNull();
  });
});

it('keeps the colours of ink and takes the paper out of them', () => {
  const blue = syntheticScan(SCAN_KINDS[5], WIDTH, HEIGHT);
  const { coloured } = lift(blue.pixels, { colours: 'keep' });
  expect(coloured).not.toBeNull();
  if (!coloured) return;
  let [red, blueness, count] = [0, 0, 0];
  for (let at = 0; at < coloured.data.length; at += 4) {
    if (coloured.data[at + 3] < 40) continue;
    red += coloured.data[at];
    blueness += coloured.data[at + 2];
    count++;
  }
  expect(blueness / count).toBeGreaterThan(red / count + 60);
});

it('gives one ink colour as black with coverage as alpha', () => {
  const { data } = blackInk({ data: Uint8Array.from([0, 128, 255]), width: 3, height: 1 });
  expect([...data]).toEqual([0, 0, 0, 0, 0, 0, 0, 128, 0, 0, 0, 255]);
});
