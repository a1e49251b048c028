import sharp from 'sharp';
import { DEFAULT_LIFT } from '#core/contract/lift';
import { liftedInk, preparedSheet } from '#core/ink/lift';
import { readSheet } from '#core/ink/sheetPaper';
import type { Pixels } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { SHADOW_SCANS, SHADOW_SIZE, shadowKind } from '#tests/helpers/shadowScans';
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

async function compared(
  kind: ScanKind,
  size?: Size,
): Promise<{ ours: LiftQuality; baseline: LiftQuality }> {
  const scan = syntheticScan(kind, size?.width, size?.height);
  const pixels = kind.jpegQuality ? await throughJpeg(scan.pixels, kind.jpegQuality) : scan.pixels;
  const lifted = wholeLift(pixels);
  return {
    ours: liftQuality(lifted, scan),
    baseline: liftQuality(globalThreshold(pixels), scan),
  };
}

const SHADOW_ERROR = 0.03;
const SHADOW_HAIRLINES = 0.98;

/** The worst of each edge and depth: one shadow and two, on a table and filling the picture. */
export async function shadowBench(): Promise<Row[]> {
  const worst = new Map<string, { meanError: number; hairlinesKept: number; falseInk: number }>();
  for (const scan of SHADOW_SCANS) {
    const kind = shadowKind(scan);
    const { ours } = await compared(kind, SHADOW_SIZE);
    const name = `lift, shadow to ${scan.left * 100} % over ${scan.edgePx} px`;
    const known = worst.get(name) ?? { meanError: 0, hairlinesKept: 1, falseInk: 0 };
    worst.set(name, {
      meanError: Math.max(known.meanError, ours.meanError),
      hairlinesKept: Math.min(known.hairlinesKept, ours.hairlinesKept),
      falseInk: Math.max(known.falseInk, ours.falseInk),
    });
  }
  return [...worst].flatMap(([name, { meanError, hairlinesKept, falseInk }]) => [
    atMost(`${name}: worst mean coverage error`, meanError, SHADOW_ERROR),
    atLeast(`${name}: fewest hairlines kept`, hairlinesKept, SHADOW_HAIRLINES),
    atMost(`${name}: most false ink`, falseInk, MOST_FALSE_INK),
  ]);
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
