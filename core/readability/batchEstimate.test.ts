import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ANCHORS, presetRuleSchema } from '../contract/preset.ts';
import { BatchEstimator, ESTIMATE, ESTIMATE_NUMBERS } from './batchEstimate.ts';
import { inkPoints } from './inkPoints.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';

const FRAME = { width: 1_200, height: 800 };
const points = inkPoints({ data: new Uint8Array(300 * 100).fill(255), width: 300, height: 100 });

/** Lightness and spread of each quarter of a photo: top left, top right, bottom left, bottom right. */
function quarters(...lightness: readonly number[]): LightMap {
  const [width, height] = [128, 84];
  const cells = new Uint8Array(width * height * 2);
  for (let cell = 0; cell < width * height; cell++) {
    const right = cell % width >= width / 2 ? 1 : 0;
    const low = cell >= (width * height) / 2 ? 2 : 0;
    cells[cell * 2] = lightness[right + low] * BYTES_PER_LIGHTNESS;
    cells[cell * 2 + 1] = 2;
  }
  return { cells, width, height };
}

function answer(map: LightMap, part: object, adjustment = {}, frame = FRAME): Float32Array {
  const out = new Float32Array(ESTIMATE_NUMBERS * 2).fill(-9);
  const rule = presetRuleSchema.parse(part);
  const question = { map, frame, aspect: 3, points, inkColour: [20, 20, 20], rule } as const;
  new BatchEstimator().estimate({ ...question, adjustment }, out, ESTIMATE_NUMBERS);
  // Nothing beyond the photo's own numbers is touched.
  expect([...out.subarray(0, ESTIMATE_NUMBERS)]).toEqual(Array(ESTIMATE_NUMBERS).fill(-9));
  return out.subarray(ESTIMATE_NUMBERS);
}

describe('BatchEstimator', () => {
  it('chooses the tone by the ground under the mark', () => {
    expect(answer(quarters(50, 50, 50, 95), {})[ESTIMATE.tone]).toBe(1);
    const dark = answer(quarters(50, 50, 50, 8), {});
    expect(dark[ESTIMATE.tone]).toBe(0);
    expect(dark[ESTIMATE.share]).toBeCloseTo(1, 5);
    expect(dark[ESTIMATE.lightness]).toBeCloseTo(8, 0);
    expect(dark[ESTIMATE.contrast]).toBeGreaterThan(50);
  });

  it('goes to a fallback that is clear, and tells the clean crop there', () => {
    const light = { tone: { tone: 'light' }, fallbacks: ['bottom', 'top-left'] };
    const found = answer(quarters(10, 96, 96, 96), light);
    expect(ANCHORS[found[ESTIMATE.anchor]]).toBe('top-left');
    expect(found[ESTIMATE.share]).toBeCloseTo(1, 5);
    const bare = answer(quarters(10, 96, 96, 96), { ...light, anchor: 'top-left', fallbacks: [] });
    expect(found[ESTIMATE.cleanCrop]).toBeCloseTo(bare[ESTIMATE.cleanCrop], 6);
  });

  it('tells the clean crop of an earlier anchor that was the best', () => {
    const rule = { tone: { tone: 'light' }, size: { value: 30 }, anchor: 'centre' };
    const all = quarters(96, 96, 96, 96);
    const found = answer(all, { ...rule, fallbacks: ['top-left'] });
    expect(ANCHORS[found[ESTIMATE.anchor]]).toBe('centre');
    expect(found[ESTIMATE.cleanCrop]).toBeCloseTo(answer(all, rule)[ESTIMATE.cleanCrop], 6);
    // The ground told is that of the anchor chosen, not of the one looked at last.
    const busy = quarters(80, 96, 96, 96);
    const light = { tone: { tone: 'light' }, size: { value: 8 }, opacity: 1 };
    const away = answer(busy, { ...light, anchor: 'top-left', fallbacks: ['bottom-right'] });
    expect(ANCHORS[away[ESTIMATE.anchor]]).toBe('top-left');
    expect(away[ESTIMATE.lightness]).toBeCloseTo(80, 0);
  });

  it('finds how strong a rescue has to be, and reports the ground without it', () => {
    const rescued = answer(quarters(96, 96, 96, 96), { tone: { tone: 'light' }, rescue: 'halo' });
    expect(rescued[ESTIMATE.rescue]).toBeGreaterThan(0.1);
    expect(rescued[ESTIMATE.rescue]).toBeLessThan(0.9);
    expect(rescued[ESTIMATE.share]).toBeGreaterThanOrEqual(0.9);
    expect(rescued[ESTIMATE.lightness]).toBeCloseTo(96, 0);
  });

  it('says of each photo of a batch what it says of it alone, whatever came before', () => {
    const rules = [
      { fallbacks: ['top-left'] as const, opacity: { rule: 'quiet' } as const },
      { fallbacks: ['top', 'left'] as const, fallback_order: 'calmest' as const },
      { tone: { tone: 'light' as const }, rescue: 'halo' as const, rotation: 30 },
      { repeat: {} },
      { upright: { anchor: 'top' as const } },
    ].map((part) => presetRuleSchema.parse(part));
    const marks = [
      { aspect: 3, points },
      {
        aspect: 3,
        points: inkPoints({ data: new Uint8Array(90).fill(255), width: 30, height: 3 }),
      },
      { aspect: 1, points },
    ];
    const sides = fc.constantFrom(800, 1_200, 1_201);
    const light = fc.integer({ min: 0, max: 100 });
    const asked = fc.record({
      width: sides,
      height: sides,
      light: fc.tuple(light, light, light, light),
      rule: fc.constantFrom(...rules),
      mark: fc.constantFrom(...marks),
      adjustment: fc.constantFrom({}, { offset: { x: 5, y: -3 } }, {
        size: { basis: 'width', value: 9 },
      } as const),
    });
    fc.assert(
      fc.property(fc.array(asked, { minLength: 2, maxLength: 12 }), (batch) => {
        const together = new BatchEstimator();
        for (const { width, height, light, rule, mark, adjustment } of batch) {
          const frame = { width, height };
          const photo = { map: quarters(...light), frame, inkColour: [20, 20, 20] as const, rule };
          const question = { ...photo, ...mark, adjustment };
          const [here, alone] = [0, 1].map(() => new Float32Array(ESTIMATE_NUMBERS));
          together.estimate(question, here, 0);
          new BatchEstimator().estimate(question, alone, 0);
          expect(here).toEqual(alone);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('keeps places of many frames apart', () => {
    const estimator = new BatchEstimator();
    const rule = presetRuleSchema.parse({ size: { value: 20 } });
    const map = quarters(10, 20, 30, 95);
    const crops = (round: number) =>
      Array.from({ length: 100 }, (_, index) => {
        const out = new Float32Array(ESTIMATE_NUMBERS);
        const frame = { width: 400 + 7 * index, height: 800 };
        const adjustment = round === 1 && index % 3 === 0 ? { offset: { x: 1, y: 1 } } : {};
        const photo = { map, frame, inkColour: [20, 20, 20] as const, rule, adjustment };
        estimator.estimate({ ...photo, aspect: 3, points }, out, 0);
        return out[ESTIMATE.cleanCrop];
      });
    const first = crops(0);
    crops(1);
    expect(crops(0)).toEqual(first);
    expect(new Set(first).size).toBeGreaterThan(80);
  });

  it('follows an adjustment', () => {
    const map = quarters(10, 96, 96, 96);
    const found = answer(
      map,
      { tone: { tone: 'light' } },
      { anchor: 'top-left', tone: { rule: 'fixed', tone: 'original' } },
    );
    expect(ANCHORS[found[ESTIMATE.anchor]]).toBe('top-left');
    // Its own colours are nearly as dark as the ground there.
    expect(found[ESTIMATE.share]).toBe(0);
  });

  it('has no share where nothing lies on the photo', () => {
    const beside = { tone: { tone: 'light' }, offset: { x: 100, y: 0 } };
    expect(answer(quarters(10, 10, 10, 10), beside)[ESTIMATE.share]).toBe(-1);
  });

  it('makes a quiet mark stronger the brighter the ground is, up to the most', () => {
    const quiet = {
      ...{ tone: { tone: 'light' }, opacity: { rule: 'quiet', least: 0.05, most: 0.9 } },
    };
    const found = [5, 60, 80, 97].map((grey) => answer(quarters(grey, grey, grey, grey), quiet));
    const [dark, middle, bright, white] = found.map((numbers) => numbers[ESTIMATE.opacity]);
    expect(dark).toBeLessThan(middle);
    expect(middle).toBeLessThan(bright);
    expect(white).toBeCloseTo(0.9, 6);
    expect(found[1][ESTIMATE.share]).toBeGreaterThanOrEqual(0.9);
  });

  it('takes an upright rule for upright photos alone', () => {
    const map = quarters(10, 96, 96, 96);
    const rule = { tone: { tone: 'light' }, upright: { anchor: 'top-left' } };
    expect(ANCHORS[answer(map, rule)[ESTIMATE.anchor]]).toBe('bottom-right');
    const upright = answer(map, rule, {}, { width: 800, height: 1_200 });
    expect(ANCHORS[upright[ESTIMATE.anchor]]).toBe('top-left');
  });
});
