import { expect, it } from 'vitest';
import { liftSettingsSchema, type LiftSettings } from '../contract/lift.ts';
import { sheetView } from './sheetView.ts';
import { mapped } from './homography.ts';
import { runsUpOrDown, turnedLift } from './turnedLift.ts';

const PHOTO = { width: 800, height: 600 };
const settings: LiftSettings = liftSettingsSchema.parse({
  corners: [
    { x: 0.1, y: 0.1 },
    { x: 0.9, y: 0.15 },
    { x: 0.85, y: 0.9 },
    { x: 0.12, y: 0.88 },
  ],
  turn: 90,
  angle: 4,
  crop: { x: 0.2, y: 0.3, width: 0.5, height: 0.25 },
  strokes: [{ does: 'rub', radius: 0.01, points: [0.25, 0.4, 0.3, 0.5] }],
});

/** Places of the photo that settings show at the corners of the crop and under the hand's strokes. */
function seen(of: LiftSettings): string[] {
  const { toPhoto, sheet } = sheetView(PHOTO, of);
  const { x, y, width, height } = of.crop ?? { x: 0, y: 0, width: 1, height: 1 };
  const corners = [x, y, x + width, y, x + width, y + height, x, y + height];
  const places = [...corners, ...of.strokes.flatMap(({ points }) => points)];
  return places
    .flatMap((place, at) => (at % 2 === 0 ? [{ x: place, y: places[at + 1] }] : []))
    .map((place) => mapped(toPhoto, { x: place.x * sheet.width, y: place.y * sheet.height }))
    .map((place) => `${place.x.toFixed(2)} ${place.y.toFixed(2)}`)
    .sort();
}

it.each([1, 2, 3] as const)(
  'turned by %i quarters it lifts the same part of the photo',
  (quarters) => {
    const turned = turnedLift(settings, quarters);
    expect(turned.turn).toBe((settings.turn + 90 * quarters) % 360);
    expect(seen(turned)).toEqual(seen(settings));
  },
);

it('four turns make none', () => {
  const four = turnedLift(turnedLift(settings, 2), 2);
  expect(four.turn).toBe(settings.turn);
  expect(four.crop?.x).toBeCloseTo(0.2);
  expect(four.strokes[0].points[1]).toBeCloseTo(0.4);
});

it('writing runs up or down where it is plainly taller than wide', () => {
  expect(runsUpOrDown({ width: 300, height: 900 })).toBe(true);
  expect(runsUpOrDown({ width: 300, height: 380 })).toBe(false);
});
