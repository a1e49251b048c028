import { QUARTER_TURNS, type LiftSettings } from '../contract/lift.ts';
import type { Size } from '../placement/geometry.ts';

/** Ink that is this much taller than wide is writing that runs up or down. */
const RUNS_UP = 1.4;

/** Whether ink, or all of it together, is longer across its lines than along them. */
export function runsUpOrDown({ width, height }: Size): boolean {
  return height > RUNS_UP * width;
}

/**
 * The same lift with the sheet turned further. What is on the sheet turns with it, so nothing has to be
 * found again.
 *
 * @param quarters clockwise
 */
export function turnedLift(settings: LiftSettings, quarters: 1 | 2 | 3): LiftSettings {
  let turned = settings;
  for (let quarter = 0; quarter < quarters; quarter++) turned = turnedOnce(turned);
  return turned;
}

/** A place at x, y of the sheet comes to lie at 1 − y, x. */
function turnedOnce(settings: LiftSettings): LiftSettings {
  const { crop, strokes } = settings;
  const at = QUARTER_TURNS.indexOf(settings.turn);
  return {
    ...settings,
    turn: QUARTER_TURNS[(at + 1) % QUARTER_TURNS.length],
    crop: crop && {
      x: Math.max(0, 1 - crop.y - crop.height),
      y: crop.x,
      width: crop.height,
      height: crop.width,
    },
    strokes: strokes.map((stroke) => ({
      ...stroke,
      points: stroke.points.map((_, index, points) =>
        index % 2 === 0 ? 1 - points[index + 1] : points[index - 1],
      ),
    })),
  };
}
