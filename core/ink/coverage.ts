import type { Levels } from './levels.ts';
import { LEAST_APART } from './levels.ts';
import {
  FULL,
  REFLECTANCE_ONE,
  REFLECTANCE_STEPS,
  type Coverage,
  type Reflectance,
} from './plane.ts';

/**
 * Coverage by the linear mixing of ink and paper: a pixel half covered reflects half of what is
 * between the two levels, so edges stay as smooth as they were and hairlines keep their weight.
 */
export function coverage(plane: Reflectance, levels: Levels): Coverage {
  const table = coverageTable(levels);
  const data = new Uint8Array(plane.data.length);
  for (let at = 0; at < data.length; at++) data[at] = table[plane.data[at]];
  return { data, width: plane.width, height: plane.height };
}

function coverageTable({ ink, paper }: Levels): Uint8Array {
  const table = new Uint8Array(REFLECTANCE_STEPS);
  const apart = Math.max(paper - ink, LEAST_APART);
  for (let step = 0; step < REFLECTANCE_STEPS; step++) {
    const linear = (paper - step / REFLECTANCE_ONE) / apart;
    table[step] = Math.round(Math.min(Math.max(linear, 0), 1) * FULL);
  }
  return table;
}

/** Full crispness makes the ramp of an edge this many times steeper. */
const CRISPEST = 5;

/** Edges made steeper about half coverage. @param crispness 0 to 1 */
export function crispEdges({ data, width, height }: Coverage, crispness: number): Coverage {
  const steepness = 1 + crispness ** 2 * (CRISPEST - 1);
  const middle = FULL / 2;
  const table = Uint8ClampedArray.from({ length: FULL + 1 }, (_, value) =>
    Math.round((value - middle) * steepness + middle),
  );
  const out = new Uint8Array(data.length);
  for (let at = 0; at < out.length; at++) out[at] = table[data[at]];
  return { data: out, width, height };
}

/** Edges blurred by up to about one pixel. @param softness 0 to 1 */
export function softenedEdges(plane: Coverage, softness: number): Coverage {
  if (softness <= 0) return plane;
  const { data, width, height } = plane;
  const out = new Uint8Array(data);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1, at = y * width + 1; x < width - 1; x++, at++) {
      const cross = data[at - 1] + data[at + 1] + data[at - width] + data[at + width];
      const corners =
        data[at - width - 1] + data[at - width + 1] + data[at + width - 1] + data[at + width + 1];
      const blurred = (4 * data[at] + 2 * cross + corners) / 16;
      out[at] = data[at] + (blurred - data[at]) * softness;
    }
  }
  return { data: out, width, height };
}

/**
 * Strokes thicker or thinner by part of a pixel on each side: the coverage mixed with its widest or
 * narrowest neighbour, in the measure of the part.
 *
 * @param byPx −3 to 3; whole pixels are taken one after the other
 */
export function weighted(plane: Coverage, byPx: number): Coverage {
  let rest = Math.abs(byPx);
  let result = plane;
  for (let round = 0; rest > 0; round++, rest -= 1) {
    result = stepped(result, Math.min(1, rest), byPx > 0, round % 2 === 1);
  }
  return result;
}

/** @param square with the diagonal neighbours; turn about, the two make an octagon */
function stepped(plane: Coverage, share: number, thicker: boolean, square: boolean): Coverage {
  const { data, width, height } = plane;
  const out = new Uint8Array(data);
  const pick = thicker ? Math.max : Math.min;
  for (let y = 0, at = 0; y < height; y++) {
    const up = y > 0 ? -width : 0;
    const down = y + 1 < height ? width : 0;
    for (let x = 0; x < width; x++, at++) {
      const left = x > 0 ? -1 : 0;
      const right = x + 1 < width ? 1 : 0;
      let extreme = pick(
        data[at],
        data[at + left],
        data[at + right],
        data[at + up],
        data[at + down],
      );
      if (square) {
        extreme = pick(
          extreme,
          data[at + up + left],
          data[at + up + right],
          data[at + down + left],
          data[at + down + right],
        );
      }
      if (extreme !== data[at]) out[at] = data[at] + (extreme - data[at]) * share;
    }
  }
  return { data: out, width, height };
}
