import { beforeAll, describe, expect, it } from 'vitest';
import { presetRuleSchema } from '#core/contract/preset';
import { exampleWords } from '#core/lettering/photoWords';
import type { Box } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import { success } from '#core/result';
import type { MarkSource } from './compose.ts';
import { judgePhoto, type Look } from './judgePhoto.ts';
import { drawMark } from './raster/drawMark.ts';
import { importArtwork } from './raster/importArtwork.ts';
import { Rasteriser } from './raster/rasteriser.ts';

const FRAME = { width: 1_200, height: 800 };
const BAR =
  '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="10"><path d="M0 0h40v10H0z"/></svg>';
const RULE = {
  anchor: 'bottom-right',
  fallbacks: ['bottom-left', 'top'],
  opacity: { rule: 'quiet' },
};

const rasteriser = new Rasteriser(drawMark);
let mark: MarkSource;
beforeAll(async () => {
  const imported = await importArtwork(Buffer.from(BAR), rasteriser);
  if (!imported.ok) throw new Error(imported.reason);
  mark = { key: 'bar', artwork: imported.value.artwork };
});

/** Dark, with columns of black and white from one on, on which nothing reads. */
function photoOf(busyFrom: number): Pixels {
  const { width, height } = FRAME;
  const data = new Uint8ClampedArray(width * height * 3).fill(20);
  for (let pixel = 0; pixel < width * height; pixel++) {
    const x = pixel % width;
    if (x >= busyFrom) data.fill(x % 4 < 2 ? 0 : 255, pixel * 3, pixel * 3 + 3);
  }
  return { data, width, height, channels: 3 };
}

/** Judges a photo, and tells which parts of it were looked at. */
async function judgedOn(pixels: Pixels, rule: object = RULE) {
  const looked: (Box | null)[] = [];
  const look: Look = (seen) => {
    looked.push(seen);
    return Promise.resolve(success({ pixels, size: FRAME, left: 0, top: 0 }));
  };
  const words = exampleWords(2024);
  const subject = { frame: FRAME, rule: presetRuleSchema.parse(rule), adjustment: {}, words };
  const judged = await judgePhoto(look, { subject, mark, below: [] }, rasteriser);
  if (!judged.ok) throw new Error(judged.reason);
  return { ...judged.value, looked };
}

describe('a photo', () => {
  it('is looked at nowhere but at the place that is asked for, where the mark is clear there', async () => {
    const { choice, readability, looked } = await judgedOn(photoOf(FRAME.width));
    expect(choice).toMatchObject({ anchor: 'bottom-right', opacity: 0.3 });
    expect(readability?.class).toBe('clear');
    expect(looked).toHaveLength(1);
    expect(looked[0]?.x).toBeGreaterThan(FRAME.width / 2);
    expect(looked[0]?.y).toBeGreaterThan(FRAME.height / 2);
  });

  it('is looked at where the other places are, where it is not', async () => {
    const { choice, readability, looked } = await judgedOn(photoOf(FRAME.width / 2));
    expect(choice).toMatchObject({ anchor: 'bottom-left', opacity: 0.3 });
    expect(readability?.class).toBe('clear');
    expect(looked).toHaveLength(2);
    expect(looked[1]?.x).toBeLessThan(FRAME.width / 4);
    expect(looked[1]?.y).toBeLessThan(FRAME.height / 4);
  });

  it('is given the same choice as by the whole policy, rescue and calmest place included', async () => {
    const busy = photoOf(0);
    const rescued = await judgedOn(busy, { ...RULE, opacity: 0.8, rescue: 'plate' });
    expect(rescued.choice.rescue).toMatchObject({ kind: 'plate' });
    expect(rescued.readability?.class).toBe('clear');
    const calmest = await judgedOn(photoOf(FRAME.width * 0.7), {
      ...{ anchor: 'right', fallbacks: ['top-right', 'left'], fallback_order: 'calmest' },
    });
    expect(calmest.choice.anchor).toBe('left');
  });

  it('is looked at once where there is no other place', async () => {
    const { looked } = await judgedOn(photoOf(0), { ...RULE, fallbacks: [] });
    expect(looked).toHaveLength(1);
  });
});
