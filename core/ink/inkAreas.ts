import { filledGaps } from './filledGaps.ts';

/** Brightness of neighbouring pixels of one surface differs by less than this share. */
const SAME_SURFACE = 0.2;
/** An island this much darker than the paper all round it is inked. */
const INKED = 0.72;
const DARKEST = 1e-4;

/**
 * Marks wide areas of ink, which no bridging of strokes reaches: surfaces with a sharp edge all
 * round, darker than the paper they lie in. What touches the rim of the sheet is left alone, since a
 * shadow may have sharp edges, too, but comes in from somewhere.
 *
 * @param ink 1 where ink is known already; changed
 */
export function markInkAreas(
  light: Float32Array,
  ink: Uint8Array,
  outside: Uint8Array,
  width: number,
): void {
  const { labels, regions } = surfaces(light, ink, outside, width);
  const paper = regions.reduce((best, region) => (region.light > best.light ? region : best));
  const islands = regions.filter((region) => region !== paper && !region.touchesRim);
  if (islands.length === 0) return;
  const known = Float32Array.from(labels, (label) => (label === paper.label ? 1 : 0));
  const expected = filledGaps(light, known, width);
  const sums = new Float64Array(regions.length);
  labels.forEach((label, at) => {
    if (label >= 0) sums[label] += expected[at];
  });
  const isInked = regions.map(
    (region) => region !== paper && !region.touchesRim && region.light < INKED * sums[region.label],
  );
  labels.forEach((label, at) => {
    if (label >= 0 && isInked[label]) ink[at] = 1;
  });
}

interface Surface {
  readonly label: number;
  /** Sum over its pixels. */
  light: number;
  touchesRim: boolean;
}

function surfaces(light: Float32Array, ink: Uint8Array, outside: Uint8Array, width: number) {
  const height = light.length / width;
  const labels = new Int32Array(light.length).fill(-1);
  const logs = light.map((value) => Math.log(Math.max(value, DARKEST)));
  const regions: Surface[] = [{ label: 0, light: 0, touchesRim: true }];
  for (let start = 0; start < light.length; start++) {
    if (labels[start] >= 0 || ink[start] || outside[start]) continue;
    const region: Surface = { label: regions.length, light: 0, touchesRim: false };
    regions.push(region);
    const stack = [start];
    labels[start] = region.label;
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      region.light += light[at];
      const x = at % width;
      const y = (at - x) / width;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) region.touchesRim = true;
      for (const next of [
        x > 0 ? at - 1 : -1,
        x + 1 < width ? at + 1 : -1,
        at - width,
        at + width,
      ]) {
        if (next < 0 || next >= light.length || labels[next] >= 0 || ink[next]) continue;
        if (outside[next]) region.touchesRim = true;
        else if (Math.abs(logs[next] - logs[at]) <= SAME_SURFACE) {
          labels[next] = region.label;
          stack.push(next);
        }
      }
    }
  }
  return { labels, regions };
}
