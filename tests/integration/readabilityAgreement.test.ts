import { exampleWords } from '#core/lettering/photoWords';
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { planRasters } from '#core/compose/rasterPlan';
import { blendMark } from '#core/compose/blendMark';
import { ANCHORS, presetRuleSchema, type PresetRule } from '#core/contract/preset';
import type { Pixels } from '#core/pixels';
import { placeMark } from '#core/placement/placeMark';
import { rgbOf } from '#core/colour/hex';
import { blendedLightness } from '#core/readability/blendedLightness';
import { GroundLook } from '#core/readability/groundLook';
import { mostOpacity } from '#core/readability/choice';
import { inkParts } from '#core/readability/inkParts';
import { inkPoints } from '#core/readability/inkPoints';
import { lightMap } from '#core/readability/lightMap';
import { classOf, measureReadability, WORKING_LONG_SIDE_PX } from '#core/readability/measure';
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

describe('the estimate and the measure', () => {
  it.each(['crest-logo.svg', 'signature.svg'])(
    'agree on the class of %s for nine of ten placements',
    async (file) => {
      const imported = await importArtwork(readFileSync(join(DEMO, 'marks', file)), rasteriser);
      if (!imported.ok) throw new Error(imported.reason);
      const { artwork } = imported.value;
      const { aspect } = shapeOf(artwork, WORDS);
      const points = await pointsOf(artwork, aspect);
      const looked = new GroundLook();
      let agreed = 0;
      let all = 0;
      const wrong: string[] = [];
      for (const photo of await workingPhotos()) {
        const map = lightMap(photo);
        for (const rule of RULES) {
          const placed = placeMark(photo, aspect, rule);
          if (!placed.ok) throw new Error(placed.reason);
          const [copy] = placed.value.copies;
          const [placing] = planRasters(photo, [copy]);
          const tone = placed.value.tone;
          const raster = await rasteriser.raster(file, artwork, placing.spec, tone, WORDS);
          const core = await rasteriser.core(file, artwork, placing.spec, WORDS);
          if (!raster.ok || !core.ok) throw new Error('not drawn');
          const marked = { ...photo, data: new Uint8ClampedArray(photo.data) };
          const { left, top } = placing;
          blendMark(marked, raster.value, left, top, mostOpacity(rule), rule.blend);
          const parts = inkParts(core.value, Math.max(copy.size.width, copy.size.height));
          const measured = measureReadability(marked, core.value, left, top, copy.box, parts);
          const colour = rgbOf(TONES[tone as keyof typeof TONES]);
          looked.look(map, photo, [copy], points);
          looked.read(blendedLightness(colour, mostOpacity(rule)));
          const { share, weakest } = looked;
          all++;
          if (measured && measured.class === classOf(share, weakest)) agreed++;
          else wrong.push(`${measured?.share.toFixed(2)} ~ ${share.toFixed(2)}`);
        }
      }
      expect(RULES.length).toBeGreaterThanOrEqual(40);
      expect(agreed / all, wrong.slice(0, 40).join(', ')).toBeGreaterThanOrEqual(LEAST_AGREEMENT);
    },
  );
});

async function pointsOf(artwork: Parameters<Rasteriser['core']>[1], aspect: number) {
  const width = 256;
  const height = Math.max(1, Math.round(width / aspect));
  const middle = { centreX: width / 2, centreY: height / 2, rotation: 0 };
  const spec = { width, height, markWidth: width, markHeight: height, ...middle };
  const core = await rasteriser.core('points', artwork, spec, WORDS);
  if (!core.ok) throw new Error(core.reason);
  return inkPoints(core.value);
}
