import { exampleWords } from '#core/lettering/photoWords';
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { planRasters } from '#core/compose/rasterPlan';
import { blendMark } from '#core/compose/blendMark';
import { ANCHORS, presetRuleSchema, type Blend, type PresetRule } from '#core/contract/preset';
import type { Pixels } from '#core/pixels';
import { placeMark, type Placement } from '#core/placement/placeMark';
import { rgbOf } from '#core/colour/hex';
import { blendedLightness } from '#core/readability/blendedLightness';
import { GroundLook } from '#core/readability/groundLook';
import { PointWindows } from '#core/readability/pointWindows';
import { mostOpacity, quietSteps } from '#core/readability/choice';
import { inkParts } from '#core/readability/inkParts';
import { inkPoints, type InkPoints } from '#core/readability/inkPoints';
import { lightMap } from '#core/readability/lightMap';
import {
  classOf,
  measureReadability,
  WORKING_LONG_SIDE_PX,
  type Measured,
} from '#core/readability/measure';
import { decodePhoto } from '#server/imaging/photo/decode';
import { probePhoto } from '#server/imaging/photo/probe';
import { shapeOf } from '#server/imaging/raster/artwork';
import { importArtwork } from '#server/imaging/raster/importArtwork';
import { drawMark } from '#server/imaging/raster/drawMark';
import { Rasteriser } from '#server/imaging/raster/rasteriser';

/**
 * The estimate that stands in while something is dragged agrees with the measure on the class
 * (contract, section 3), on all demo photos over a spread of presets.
 */

const DEMO = fileURLToPath(new URL('../../demo', import.meta.url));
const WORDS = exampleWords(2_026);
const LEAST_AGREEMENT = 0.9;
const TONES = { light: '#ffffff', dark: '#000000', '#c9a25b': '#c9a25b' } as const;

let rasteriser: Rasteriser;
beforeAll(() => {
  rasteriser = new Rasteriser(drawMark);
});

/** 45 placements: every anchor in five sizes, tones and strengths. */
const RULES: readonly PresetRule[] = ANCHORS.flatMap((anchor, index) =>
  [
    { tone: 'light', value: 14, opacity: 0.85 },
    { tone: 'dark', value: 18, opacity: 0.7 },
    { tone: '#c9a25b', value: 22, opacity: 0.9 },
    { tone: 'light', value: 32, opacity: 0.45 },
    { tone: 'dark', value: 10, opacity: 1 },
  ].map(({ tone, value, opacity }) =>
    presetRuleSchema.parse({
      ...{ tone: { tone }, size: { value }, anchor, opacity },
      rotation: index % 3 === 0 ? 0 : (index - 4) * 7,
    }),
  ),
);

async function workingPhotos(): Promise<Pixels[]> {
  const folder = join(DEMO, 'photos');
  const photos: Pixels[] = [];
  for (const name of readdirSync(folder).filter((file) => file.endsWith('.jpg'))) {
    const path = join(folder, name);
    const probed = await probePhoto(path);
    if (!probed.ok) throw new Error(probed.reason);
    const { width, height } = probed.value.size;
    const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(width, height));
    const frame = { width: Math.round(width * factor), height: Math.round(height * factor) };
    const decoded = await decodePhoto(path, probed.value, { frame, flatten: true });
    if (!decoded.ok) throw new Error(decoded.reason);
    photos.push(decoded.value);
  }
  return photos;
}

/** A mark as it is looked at in all tests. */
interface Looked {
  readonly key: string;
  readonly artwork: Parameters<Rasteriser['core']>[1];
  readonly aspect: number;
  readonly points: InkPoints;
}

async function lookedAt(file: string): Promise<Looked> {
  const imported = await importArtwork(readFileSync(join(DEMO, 'marks', file)), rasteriser);
  if (!imported.ok) throw new Error(imported.reason);
  const { artwork } = imported.value;
  const { aspect } = shapeOf(artwork, WORDS);
  return { key: file, artwork, aspect, points: await pointsOf(artwork, aspect) };
}

/** Null where nothing of it lies on the photo. */
async function measured(
  photo: Pixels,
  { key, artwork }: Looked,
  { copies: [copy], tone }: Placement,
  opacity: number,
  blend: Blend,
): Promise<Measured | null> {
  const [placing] = planRasters(photo, [copy]);
  const raster = await rasteriser.raster(key, artwork, placing.spec, tone, WORDS);
  const core = await rasteriser.core(key, artwork, placing.spec, WORDS);
  if (!raster.ok || !core.ok) throw new Error('not drawn');
  const marked = { ...photo, data: new Uint8ClampedArray(photo.data) };
  const { left, top } = placing;
  blendMark(marked, raster.value, left, top, opacity, blend);
  const parts = inkParts(core.value, Math.max(copy.size.width, copy.size.height));
  return measureReadability(marked, core.value, left, top, copy.box, parts);
}

function placedBy(photo: Pixels, aspect: number, rule: PresetRule): Placement {
  const placed = placeMark(photo, aspect, rule);
  if (!placed.ok) throw new Error(placed.reason);
  return placed.value;
}

describe('the estimate and the measure', () => {
  it.each(['crest-logo.svg', 'signature.svg'])(
    'agree on the class of %s for nine of ten placements',
    async (file) => {
      const mark = await lookedAt(file);
      const looked = new GroundLook();
      const windows = new PointWindows();
      let agreed = 0;
      let all = 0;
      const wrong: string[] = [];
      for (const photo of await workingPhotos()) {
        const map = lightMap(photo);
        for (const rule of RULES) {
          const placement = placedBy(photo, mark.aspect, rule);
          const opacity = mostOpacity(rule);
          const found = await measured(photo, mark, placement, opacity, rule.blend);
          const colour = rgbOf(TONES[placement.tone as keyof typeof TONES]);
          windows.lay(map, photo, placement.copies.slice(0, 1), mark.points);
          looked.look(map, windows);
          looked.read(blendedLightness(colour, opacity));
          const { share, weakest } = looked;
          all++;
          if (found && found.class === classOf(share, weakest)) agreed++;
          else wrong.push(`${found?.share.toFixed(2)} ~ ${share.toFixed(2)}`);
        }
      }
      expect(RULES.length).toBeGreaterThanOrEqual(40);
      expect(agreed / all, wrong.slice(0, 40).join(', ')).toBeGreaterThanOrEqual(LEAST_AGREEMENT);
    },
  );

  it('agree within a step on how strong a quiet mark is, for four of five placements', async () => {
    const mark = await lookedAt('signature.svg');
    const looked = new GroundLook();
    const windows = new PointWindows();
    const apart: number[] = [];
    for (const photo of await workingPhotos()) {
      const map = lightMap(photo);
      for (const anchor of ANCHORS) {
        const rule = presetRuleSchema.parse({
          anchor,
          tone: { tone: 'light' },
          size: { value: 16 },
        });
        const placement = placedBy(photo, mark.aspect, rule);
        windows.lay(map, photo, placement.copies.slice(0, 1), mark.points);
        looked.look(map, windows);
        const isClear = async (opacity: number): Promise<boolean> =>
          (await measured(photo, mark, placement, opacity, rule.blend))?.class === 'clear';
        const isEstimatedClear = (opacity: number): Promise<boolean> => {
          looked.read(blendedLightness(rgbOf('#ffffff'), opacity));
          return Promise.resolve(classOf(looked.share, looked.weakest) === 'clear');
        };
        const found = await quietestStep(isClear);
        // Where it is clear at none, there is nothing to be quiet about.
        if (found < STEPS.length) apart.push((await quietestStep(isEstimatedClear)) - found);
      }
    }
    expect(apart.length).toBeGreaterThan(100);
    const near = apart.filter((steps) => Math.abs(steps) <= 1).length;
    expect(near / apart.length, apart.join()).toBeGreaterThanOrEqual(LEAST_NEAR);
    // Neither always too strong nor always too faint.
    const mean = apart.reduce((sum, steps) => sum + steps, 0) / apart.length;
    expect(Math.abs(mean)).toBeLessThan(0.6);
  });
});

/** Opacities that a quiet mark may have. */
const STEPS = quietSteps({ rule: 'quiet', least: 0.1, most: 1 });
const LEAST_NEAR = 0.8;

/** The first of them at which it is clear; as many as there are where it is at none. */
async function quietestStep(isClear: (opacity: number) => Promise<boolean>): Promise<number> {
  let [low, high] = [0, STEPS.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (await isClear(STEPS[middle])) high = middle;
    else low = middle + 1;
  }
  return low;
}

async function pointsOf(artwork: Parameters<Rasteriser['core']>[1], aspect: number) {
  const width = 256;
  const height = Math.max(1, Math.round(width / aspect));
  const middle = { centreX: width / 2, centreY: height / 2, rotation: 0 };
  const spec = { width, height, markWidth: width, markHeight: height, ...middle };
  const core = await rasteriser.core('points', artwork, spec, WORDS);
  if (!core.ok) throw new Error(core.reason);
  return inkPoints(core.value);
}
