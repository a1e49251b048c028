import { ANCHORS } from '../contract/preset.ts';
import { clamp, type Box, type Size } from '../placement/geometry.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';

/**
 * How calm the ground of a photo is in a box, from its light map: 1 is even, 0 is where nobody would put a
 * mark. Texture, edges and bright spots count, since each draws the eye to itself.
 */

/** Standard deviation within cells, L*, at which texture alone makes a ground restless. */
const RESTLESS_TEXTURE = 16;
/** Mean step between neighbouring cells, L*, at which edges alone do. */
const RESTLESS_STEP = 14;
/** A spot is this much brighter than the middle of the box, L*; so large a share of them is restless. */
const SPOT_LIGHTNESS = 22;
const RESTLESS_SPOTS = 0.3;

/** From here on a place is calm. */
export const CALM_FROM = 0.55;

/** @param box px of the frame; what lies beside it is not looked at */
export function calmness({ cells, width, height }: LightMap, frame: Size, box: Box): number {
  const left = clamp(Math.floor((box.x / frame.width) * width), 0, width - 1);
  const top = clamp(Math.floor((box.y / frame.height) * height), 0, height - 1);
  const right = clamp(Math.ceil(((box.x + box.width) / frame.width) * width), left + 1, width);
  const bottom = clamp(Math.ceil(((box.y + box.height) / frame.height) * height), top + 1, height);
  const count = (right - left) * (bottom - top);
  let mean = 0;
  let texture = 0;
  let steps = 0;
  let neighbours = 0;
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const at = (y * width + x) * 2;
      mean += cells[at];
      texture += cells[at + 1] * cells[at + 1];
      if (x + 1 < right) {
        steps += Math.abs(cells[at + 2] - cells[at]);
        neighbours++;
      }
      if (y + 1 < bottom) {
        steps += Math.abs(cells[at + 2 * width] - cells[at]);
        neighbours++;
      }
    }
  }
  mean /= count;
  let spots = 0;
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      if (cells[(y * width + x) * 2] - mean > SPOT_LIGHTNESS * BYTES_PER_LIGHTNESS) spots++;
    }
  }
  const deviation = Math.sqrt(texture / count) / BYTES_PER_LIGHTNESS;
  const step = neighbours > 0 ? steps / neighbours / BYTES_PER_LIGHTNESS : 0;
  const restless =
    deviation / RESTLESS_TEXTURE + step / RESTLESS_STEP + spots / count / RESTLESS_SPOTS;
  return clamp(1 - restless, 0, 1);
}

/** Places of a photo, in the order of `ANCHORS`. */
export const PLACES = ANCHORS.length;

/**
 * On how many photos each place is calm.
 *
 * @param numbers of all photos, `PLACES` each; NaN where nothing is known
 */
export function calmCounts(numbers: Float32Array): number[] {
  const counts = ANCHORS.map(() => 0);
  for (let at = 0; at < numbers.length; at++) if (numbers[at] >= CALM_FROM) counts[at % PLACES]++;
  return counts;
}

/** Whether a mark lies on the busiest part of a photo, where that is not calm. */
export function isOnBusiest(numbers: Float32Array, photo: number, anchor: number): boolean {
  const own = numbers[photo * PLACES + anchor];
  if (!(own < CALM_FROM)) return false;
  for (let place = 0; place < PLACES; place++) {
    if (numbers[photo * PLACES + place] < own) return false;
  }
  return true;
}
