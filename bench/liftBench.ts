import sharp from 'sharp';
import { DEFAULT_LIFT } from '#core/contract/lift';
import { liftedInk, preparedSheet } from '#core/ink/lift';
import { readSheet } from '#core/ink/sheetPaper';
import type { Pixels } from '#core/pixels';
import {
  globalThreshold,
  liftQuality,
  SCAN_KINDS,
  syntheticScan,
  type LiftQuality,
  type ScanKind,
} from '#tests/helpers/syntheticScan';
import { atLeast, atMost, type Row } from './measure.ts';

/** Quality of the lift on scans of known coverage, beside one threshold for the whole sheet. */

const MOST_ERROR = 0.06;
const MOST_OF_BASELINE = 0.5;
const LEAST_HAIRLINES = 0.95;
const MOST_FALSE_INK = 0.002;

export async function liftBench(): Promise<Row[]> {
  const rows: Row[] = [];
  for (const kind of SCAN_KINDS) {
    const { ours, baseline } = await compared(kind);
    const limit = kind.isUneven
      ? Math.min(MOST_ERROR, baseline.meanError * MOST_OF_BASELINE)
      : MOST_ERROR;
    rows.push(
      atMost(`lift, ${kind.name}: mean coverage error`, ours.meanError, limit),
      atLeast(`lift, ${kind.name}: hairlines kept`, ours.hairlinesKept, LEAST_HAIRLINES),
      atMost(`lift, ${kind.name}: false ink`, ours.falseInk, MOST_FALSE_INK),
    );
    for (const [what, value] of Object.entries(baseline)) {
      rows.push({
        what: `  one threshold: ${what}`,
        found: value.toFixed(3),
        wanted: '',
        isMet: true,
      });
    }
  }
  return rows;
}

async function compared(kind: ScanKind): Promise<{ ours: LiftQuality; baseline: LiftQuality }> {
  const scan = syntheticScan(kind);
  const pixels = kind.jpegQuality ? await throughJpeg(scan.pixels, kind.jpegQuality) : scan.pixels;
  const lifted = wholeLift(pixels);
  return {
    ours: liftQuality(lifted, scan),
    baseline: liftQuality(globalThreshold(pixels), scan),
  };
}

/** The lift laid back into the whole picture. */
function wholeLift(pixels: Pixels): Uint8Array {
  const whole = new Uint8Array(pixels.width * pixels.height);
  const lifted = liftedInk(preparedSheet(readSheet(pixels), DEFAULT_LIFT), DEFAULT_LIFT);
  if (!lifted.ok) return whole;
  const { coverage, inkBox } = lifted.value;
  for (let y = 0; y < inkBox.height; y++) {
    whole.set(
      coverage.data.subarray(y * inkBox.width, (y + 1) * inkBox.width),
      (inkBox.y + y) * pixels.width + inkBox.x,
    );
  }
  return whole;
}

async function throughJpeg(pixels: Pixels, quality: number): Promise<Pixels> {
  const { width, height } = pixels;
  const jpeg = await sharp(pixels.data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
  const data = await sharp(jpeg).raw().toBuffer();
  return { ...pixels, data: new Uint8ClampedArray(data) };
}
