import { liftedInk, preparedSheet } from '#core/ink/lift';
import { readSheet } from '#core/ink/sheetPaper';
import { suggestedLift } from '#core/ink/suggestedLift';
import type { Pixels } from '#core/pixels';
import { SCAN_KINDS, syntheticScan } from '#tests/helpers/syntheticScan';
import { atMost, median, type Row } from './measure.ts';

/** Speed of the lift on an A4 page scanned at 600 dpi, as the page's workers do it. */

const PAGE = { width: 4_960, height: 7_016 };
/** What the worker that follows the hand works on. */
const QUICK = { width: 800, height: 1_130 };
const ROUNDS = 5;
const MOST_FULL_MS = 2_000;
const MOST_CONTROL_MS = 50;

export async function liftSpeedBench(): Promise<Row[]> {
  const page = signedPage(PAGE, 1_800);
  const quick = signedPage(QUICK, 290);
  const quickPhoto = readSheet(quick);
  // The crop is suggested on the small copy, as in the page.
  const settings = suggestedLift(quickPhoto);
  const full: number[] = [];
  const controls: number[] = [];
  const sheet = preparedSheet(quickPhoto, settings);
  for (let round = 0; round < ROUNDS; round++) {
    full.push(
      timed(() => {
        const prepared = preparedSheet(readSheet(page), settings);
        if (!liftedInk(prepared, settings).ok) throw new Error('No ink was found.');
      }),
    );
    const moved = { ...settings, weight: 0.3 * round, edge: 0.1 * round };
    controls.push(timed(() => liftedInk(sheet, moved, QUICK.width / PAGE.width)));
  }
  return [
    atMost('lift, 35 megapixels: sheet read and ink lifted', median(full), MOST_FULL_MS, ' ms'),
    atMost('lift, a moved control on the copy', median(controls), MOST_CONTROL_MS, ' ms'),
  ];
}

function timed(work: () => void): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

/** A page of uneven grey paper with a signature of some width in the middle. */
function signedPage({ width, height }: typeof PAGE, inkWidth: number): Pixels {
  const inkHeight = Math.round(inkWidth / 1.5);
  const ink = syntheticScan(SCAN_KINDS[0], inkWidth, inkHeight).pixels;
  const data = new Uint8ClampedArray(width * height * 3);
  const left = Math.round((width - inkWidth) / 2);
  const top = Math.round((height - inkHeight) / 2);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      const isInk = x >= left && y >= top && x < left + inkWidth && y < top + inkHeight;
      const from = ((y - top) * inkWidth + x - left) * 3;
      const light = 0.95 - (0.25 * x) / width + ((x * 7 + y * 13) % 5) * 0.004;
      data.fill(245 * light * (isInk ? ink.data[from] / 245 : 1), at, at + 3);
    }
  }
  return { data, width, height, channels: 3 };
}
